import { useRef } from 'react';

/** A list that keeps its identity as long as the same things stand in it. */
export function useKept<T>(list: readonly T[]): readonly T[] {
  const last = useRef(list);
  if (list.length !== last.current.length || list.some((one, k) => one !== last.current[k])) last.current = list;
  return last.current;
}
