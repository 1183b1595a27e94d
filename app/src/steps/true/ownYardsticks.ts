import { useQuery, useQueryClient } from '@tanstack/react-query';
import { database } from '../../session/storage';
import { forgetYardstick, keepYardstick, listYardsticks, type OwnYardstick } from '../../session/storage/ownYardsticks';

const KEY = ['own yardsticks'];

/** Yardsticks that were kept for next time, of one kind, by their name. */
export function useOwnYardsticks<K extends OwnYardstick['kind']>(kind: K): Extract<OwnYardstick, { kind: K }>[] {
  const { data } = useQuery({ queryKey: KEY, queryFn: () => listYardsticks(database) });
  return (data ?? []).filter((y): y is Extract<OwnYardstick, { kind: K }> => y.kind === kind);
}

/** Keeps one under its name; one of the same name is replaced. */
export function useKeepYardstick(): (entry: OwnYardstick) => Promise<void> {
  const client = useQueryClient();
  return async (entry) => {
    await keepYardstick(database, entry);
    await client.invalidateQueries({ queryKey: KEY });
  };
}

/** Forgets one; jobs that used it keep what they took of it. */
export function useForgetYardstick(): (kind: OwnYardstick['kind'], name: string) => Promise<void> {
  const client = useQueryClient();
  return async (kind, name) => {
    await forgetYardstick(database, kind, name);
    await client.invalidateQueries({ queryKey: KEY });
  };
}
