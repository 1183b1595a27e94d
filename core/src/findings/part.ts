import { dropConditions, type JobDocument, viewOfPath } from '../job';
import { parameterSentence, partFaultWords, relationSentence, sizeWord } from '../say';
import {
  type EvaluatedPart,
  findPath,
  type Id,
  type Part,
  type PartFault,
  type Sketch,
  type SketchTold,
  scopeOf,
} from '../sketch';
import type { Finding, Repair } from './finding';

/** What of a path could not be made as it was said. */
export function pathFinding(fault: PartFault, part: Part): Finding {
  return {
    key: `${fault.path} ${fault.maker} ${fault.reason}`,
    ...partFaultWords(fault, part),
    where: { kind: 'path', path: fault.path, maker: fault.maker },
    gravity: 'wrong',
    certainty: 'sure',
    repairs: [],
  };
}

/**
 * What of a part goes out otherwise than it was said: parameters that come to nothing, what could not be made of its paths,
 * sizes that are none. With a view only what was traced in it. Paths for reference go into no file, and nobody is told of
 * theirs unless something is made by them.
 */
export function partFindings(
  job: JobDocument,
  evaluated: Pick<EvaluatedPart, 'settled' | 'faults'>,
  view: Id | null,
): Finding[] {
  const { part } = job;
  const isWanted = (path: Id) => view === null || viewOfPath(job, path)?.id === view;
  const isCut = (path: Id) => findPath(part, path)?.path.role !== 'reference';
  const findings = [...scopeOf(part).faults.keys()].map(
    (parameter): Finding => ({
      key: `parameter ${parameter}`,
      subject: null,
      says: parameterSentence(parameter, part),
      where: { kind: 'parameter', parameter },
      gravity: 'wrong',
      certainty: 'sure',
      repairs: [],
    }),
  );
  for (const fault of evaluated.faults)
    if (isWanted(fault.path) && (isCut(fault.path) || fault.reason.startsWith('sizes-')))
      findings.push(pathFinding(fault, part));
  for (const [sketch, { results }] of evaluated.settled) {
    if (view !== null && part.sketches[sketch]?.frame.view !== view) continue;
    const lost = [...results.values()].flatMap((r) => r.lost.filter((l) => l.reason === 'no-length'));
    if (lost.length === 0) continue;
    const conditions = lost.map((l) => l.condition);
    findings.push({
      key: `lost ${sketch}`,
      subject: null,
      says: 'A size that was decided comes to no length, so it holds nothing.',
      where: { kind: 'conditions', sketch, conditions },
      gravity: 'wrong',
      certainty: 'sure',
      repairs: [],
    });
  }
  return findings;
}

/** What of a sketch's relations and sizes cannot be, with each way out. */
export function conditionFindings(sketch: Sketch, told: Pick<SketchTold, 'contradictions' | 'lost'>): Finding[] {
  const say = (id: Id): string => {
    const constraint = sketch.constraints[id];
    const dimension = sketch.dimensions[id];
    if (constraint) return relationSentence(sketch, constraint);
    if (!dimension) return '';
    const { origin } = dimension;
    return sizeWord(sketch, dimension) + (origin.kind === 'decided' ? `, decided as ${origin.value.text}` : '');
  };
  const isThere = (id: Id) => Boolean(sketch.constraints[id] ?? sketch.dimensions[id]);
  const away = (id: Id, says: string | null): Repair => ({
    says,
    press: isThere(id) ? { name: 'Take it away', act: () => dropConditions(sketch.id, [id]) } : null,
  });
  const common = { gravity: 'wrong', certainty: 'sure' } as const;
  return [
    ...told.contradictions.map(
      (conditions): Finding => ({
        ...common,
        key: `contradiction ${conditions.join(' ')}`,
        subject: null,
        says:
          conditions.length === 1
            ? 'This cannot be:'
            : 'These cannot all be. Everything lies as it was seen until one goes:',
        where: { kind: 'conditions', sketch: sketch.id, conditions },
        repairs: conditions.map((id) => away(id, say(id))),
      }),
    ),
    ...told.lost.map(
      ({ condition, reason }): Finding => ({
        ...common,
        key: `lost ${condition}`,
        subject: `${say(condition)}:`,
        says: reason === 'no-length' ? 'what was typed is no size above 0.' : 'it says nothing of what it names.',
        where: { kind: 'conditions', sketch: sketch.id, conditions: [condition] },
        repairs: [away(condition, null)],
      }),
    ),
  ];
}
