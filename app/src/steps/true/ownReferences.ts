import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useJob } from '../../session/jobStore';
import { NOT_KEPT } from '../../session/sentences';
import { database } from '../../session/storage';
import { forgetReference, keepReference, listReferences, type OwnReference } from '../../session/storage/ownReferences';

const KEY = ['own yardsticks'];

/** Yardsticks that were kept for next time, of one kind, by their name. */
export function useOwnReferences<K extends OwnReference['kind']>(kind: K): Extract<OwnReference, { kind: K }>[] {
  const { data } = useQuery({ queryKey: KEY, queryFn: () => listReferences(database) });
  return (data ?? []).filter((y): y is Extract<OwnReference, { kind: K }> => y.kind === kind);
}

/** Keeps one under its name; one of the same name is replaced. */
export function useKeepReference(): (entry: OwnReference) => Promise<void> {
  const client = useQueryClient();
  return async (entry) => {
    if (!(await keepReference(database, entry))) useJob.setState({ notice: NOT_KEPT });
    await client.invalidateQueries({ queryKey: KEY });
  };
}

/** Forgets one; jobs that used it keep what they took of it. */
export function useForgetReference(): (kind: OwnReference['kind'], name: string) => Promise<void> {
  const client = useQueryClient();
  return async (kind, name) => {
    await forgetReference(database, kind, name);
    await client.invalidateQueries({ queryKey: KEY });
  };
}
