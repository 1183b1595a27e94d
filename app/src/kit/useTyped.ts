import { useEffect, useRef, useState } from 'react';

/**
 * What stands in a field whose value comes to be another one, as figures do while a part settles: the new one, but not over
 * what somebody is typing there.
 */
export const typedOver = (text: string, shown: string, value: string): string => (text === shown ? value : text);

/**
 * The text of a field that shows a value. Out: the text; what sets it; and what says that it was given out, so that the
 * value that comes of it stands in its place.
 */
export function useTyped(value: string): [string, (text: string) => void, (text: string) => void] {
  const [text, setText] = useState(value);
  const shown = useRef(value);
  useEffect(() => {
    const was = shown.current;
    shown.current = value;
    setText((now) => typedOver(now, was, value));
  }, [value]);
  return [
    text,
    setText,
    (given) => {
      shown.current = given;
    },
  ];
}
