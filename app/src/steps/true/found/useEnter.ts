import { useEffect, useRef } from 'react';
import { isTextField } from '../../../board/useViewControls';

/** Enter takes what is offered first, unless it means a field or a control that has the focus. */
export function useEnter(take: () => void): void {
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const onControl =
        event.target instanceof Element &&
        event.target.closest('button, a:not([aria-current]), [role="radio"]') !== null;
      if (event.key !== 'Enter' || event.repeat || isTextField(event.target) || onControl) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
