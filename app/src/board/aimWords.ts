import { useSession } from '../session/sessionStore';
import type { Aim } from './useAim';

const KINDS = { edge: 'edge', line: 'graduation', point: 'point', free: 'nothing' } as const;

const kindWord = (aim: Aim): string => (aim.isShadow ? 'shadow?' : KINDS[aim.snappedTo]);

/** What an aim snaps to, for the readout. */
export function snapWords(aim: Aim): string {
  if (aim.snappedTo === 'free') return useSession.getState().freeHand ? 'nothing: F is held' : 'nothing near';
  if (aim.onto !== null) return aim.onto;
  const which = aim.edges.length > 1 ? ` ${aim.edge + 1} of ${aim.edges.length}` : '';
  return `${kindWord(aim)}${which}, ${plusMinus(aim)}`;
}

const plusMinus = ({ sigmaPx }: Aim): string => `± ${(2 * sigmaPx).toFixed(2)} px`;

/** Short enough for the loupe's width; where there are several edges it names the key that takes the next. */
export function loupeWords(aim: Aim): string {
  if (aim.snappedTo === 'free') return 'no edge near';
  if (aim.onto !== null) return aim.onto;
  if (aim.edges.length > 1)
    return `${aim.isShadow ? 'shadow? ' : ''}${aim.edge + 1} of ${aim.edges.length} (G), ${plusMinus(aim)}`;
  return `${kindWord(aim)}, ${plusMinus(aim)}`;
}
