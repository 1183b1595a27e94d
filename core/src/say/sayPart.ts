import { type Id, type Maker, type Part, type PartFault, scopeOf } from '../sketch';
import { formulaSentence } from './sayFormula';
import { makerSentence } from './sayMaker';

const MADE: Record<Maker['kind'], string> = {
  fillet: 'its rounded corners',
  chamfer: 'its cut corners',
  offset: 'its larger or smaller form',
  mirror: 'its mirror image',
  round: 'its copies round a hole',
  row: 'its copies in a row',
  grid: 'its copies on a grid',
};

/** What cannot be made of a path as it was said: whom it is said of, with the path's name, and what. */
export function partFaultWords(
  { sketch, path, maker, reason }: PartFault,
  part: Part,
): { subject: string; says: string } {
  const own = part.sketches[sketch];
  const name = `“${own?.paths[path]?.name ?? 'a path'}”`;
  switch (reason) {
    case 'no-place':
      return {
        subject: name,
        says: 'has no place: the picture or the height that it was traced on is not true, or not there.',
      };
    case 'sizes-contradict':
      return {
        subject: `${name}:`,
        says: 'its sizes and relations contradict each other; it is as it was seen.',
      };
    case 'sizes-not-found':
      return {
        subject: `${name}:`,
        says: 'its sizes and relations could not be settled from where it lies; it is as it was seen.',
      };
    default: {
      const kind = maker === null ? undefined : own?.makers[maker]?.kind;
      return { subject: `${name}, ${kind ? MADE[kind] : 'what is made of it'}:`, says: makerSentence(reason) };
    }
  }
}

/** A parameter whose formula comes to nothing, with its name. */
export function parameterSentence(id: Id, part: Part): string {
  const fault = scopeOf(part).faults.get(id);
  const name = part.parameters.find((p) => p.id === id)?.name ?? 'A parameter';
  return `${name} comes to nothing. ${fault ? formulaSentence(fault) : ''}`.trim();
}
