import type { Finding } from '@steady-moth/core/findings';
import { addMaker, changeMaker, dropMaker, MOST } from '@steady-moth/core/job';
import {
  type Expression,
  type Figure,
  type Maker,
  makersOf,
  type NewMaker,
  type Path,
  type Sketch,
} from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import { type ReactNode, useState } from 'react';
import { Act, Choice, Select } from '../../../kit';
import { FormulaField, NumberField, type ReadFormula, type ReadNumber } from '../../../kit/FormulaField';
import { itemsOf } from '../../../part/chosen';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import { useSession } from '../../../session/sessionStore';
import { namesApart } from './namesApart';

const KINDS: readonly { kind: Maker['kind']; text: string }[] = [
  { kind: 'fillet', text: 'rounded corners' },
  { kind: 'chamfer', text: 'cut corners' },
  { kind: 'offset', text: 'larger or smaller' },
  { kind: 'mirror', text: 'its mirror image added' },
  { kind: 'round', text: 'copies round a hole' },
  { kind: 'row', text: 'copies in a row' },
  { kind: 'grid', text: 'copies on a grid' },
];

const SIDES = [
  { value: 'out', text: 'larger' },
  { value: 'in', text: 'smaller' },
] as const;
/** Of an open path: to which side of its way. */
const SIDES_OF_OPEN = [
  { value: 'out', text: 'left' },
  { value: 'in', text: 'right' },
] as const;
const CORNERS = [
  { value: 'round', text: 'round' },
  { value: 'sharp', text: 'sharp' },
  { value: 'cut', text: 'cut' },
] as const;
const TURNS = [
  { value: 'all', text: 'all round' },
  { value: 'each', text: 'each' },
  { value: 'total', text: 'in all' },
] as const;
const SPANS = [
  { value: 'each', text: 'each' },
  { value: 'total', text: 'in all' },
] as const;
const WAYS = [
  { value: 'right', text: 'right' },
  { value: 'left', text: 'left' },
  { value: 'up', text: 'up' },
  { value: 'down', text: 'down' },
] as const;

const number = (text: string) => ({ text, unit: 'number' as const });
const TWO = number('2');

interface Props {
  sketch: Sketch;
  path: Path;
  unit: LengthUnit;
  /** All paths of the job: what a mirror or copies go by is one of them. */
  paths: readonly { sketch: Sketch; path: Path }[];
  findings: readonly Finding[];
  /** How formulas are read. */
  read: ReadFormula;
  readNumber: ReadNumber;
  /** Makes ordinary paths of what is made; null where nothing is. */
  onLoose: (() => void) | null;
}

/** What is made of a path, one line each, in the order in which it is made. */
export function Making({ sketch, path, unit, paths, findings, read, readNumber, onLoose }: Props) {
  const apply = useJob((s) => s.apply);
  const [missing, setMissing] = useState<string | null>(null);
  const others = paths.filter((p) => p.path.id !== path.id);
  const lines = others.filter((p) => !p.path.closed).map((p) => p.path);
  // A centre line is meant before any other.
  lines.sort((a, b) => Number(b.role === 'centre-line') - Number(a.role === 'centre-line'));
  const circles = others.filter((p) => isCircle(p.sketch, p.path)).map((p) => p.path);
  const makers = makersOf(sketch.makers, path.id);
  const add = (text: string) => {
    const kind = KINDS.find((k) => k.text === text)?.kind;
    const size = (mm: string, inch: string): Expression => ({ text: unit === 'in' ? inch : mm, unit });
    const base = { id: newId(), path: path.id };
    setMissing(null);
    if (kind === 'fillet' || kind === 'chamfer') apply(addMaker({ ...base, kind, size: size('2', '1/16'), at: null }));
    if (kind === 'offset')
      apply(addMaker({ ...base, kind, by: size('1', '1/32'), side: 'out', corners: 'round', except: {} }));
    if (kind === 'row')
      apply(addMaker({ ...base, kind, step: size('10', '1/2'), span: 'each', count: TWO, way: 'right' }));
    if (kind === 'grid')
      apply(addMaker({ ...base, kind, step: size('10', '1/2'), count: TWO, rowStep: size('10', '1/2'), rows: TWO }));
    if (kind === 'mirror') {
      if (lines[0]) apply(addMaker({ ...base, kind, about: lines[0].id, smooth: false }));
      else setMissing('Draw the line it is mirrored in first: two points, and "centre line" as what it is for.');
    }
    if (kind === 'round') {
      if (circles[0]) apply(addMaker({ ...base, kind, about: circles[0].id, count: number('4'), turn: null }));
      else setMissing('Trace a circle in the middle first: the copies stand round its center.');
    }
  };
  return (
    <section className="mt-2.5" aria-label="Made of it">
      {makers.length > 0 && (
        <ol className="border-verdigris border-l pl-2.5">
          {makers.map((maker) => (
            <li key={maker.id} className="py-1">
              <div className="flex items-baseline justify-between gap-x-2">
                <span>{KINDS.find((k) => k.kind === maker.kind)?.text}</span>
                <Act onClick={() => apply(dropMaker(path.id, maker.id))}>Leave it out</Act>
              </div>
              <div className="mt-0.5 flex flex-wrap items-center gap-x-2 gap-y-1">
                <MakerFields
                  read={read}
                  readNumber={readNumber}
                  maker={maker}
                  path={path}
                  unit={unit}
                  closed={path.closed}
                  lines={lines}
                  circles={circles}
                />
              </div>
              {findings
                .filter((f) => f.where.kind === 'path' && f.where.maker === maker.id)
                .map((f) => (
                  <p key={f.key} role="alert" className="text-[12.5px] text-brick">
                    {f.says}
                  </p>
                ))}
            </li>
          ))}
        </ol>
      )}
      <div className="mt-1 flex items-center gap-2">
        <span className="text-ink2">Make of it</span>
        <Select label="Make of it" value="" options={['', ...KINDS.map((k) => k.text)]} onChange={add} />
        {onLoose && <Act onClick={onLoose}>Cut it loose</Act>}
      </div>
      {missing && (
        <p role="status" className="mt-1 text-[12.5px] text-amber">
          {missing}
        </p>
      )}
    </section>
  );
}

const isCircle = (sketch: Sketch, path: Path): boolean => sketch.curves[path.uses[0]?.curve ?? '']?.kind === 'circle';

function MakerFields({
  read,
  readNumber,
  maker,
  path,
  unit,
  closed,
  lines,
  circles,
}: {
  read: ReadFormula;
  readNumber: ReadNumber;
  maker: Maker;
  path: Path;
  unit: LengthUnit;
  /** Whether the path is. */
  closed: boolean;
  lines: readonly Path[];
  circles: readonly Path[];
}) {
  const apply = useJob((s) => s.apply);
  const set = (next: NewMaker) => apply(changeMaker(next));
  const length = (label: string, value: Expression, accept: (value: Expression) => void) => (
    <FormulaField
      label={label}
      narrow
      value={value.text}
      unit={value.unit}
      read={read}
      onAccept={(text) => accept({ text, unit })}
    />
  );
  const count = (label: string, value: Figure, accept: (value: Figure) => void) => (
    <NumberField
      label={label}
      value={value.text}
      read={readNumber}
      least={2}
      most={MOST.copies}
      onAccept={(text) => accept(number(text))}
    />
  );
  switch (maker.kind) {
    case 'fillet':
    case 'chamfer':
      return (
        <>
          {length(maker.kind === 'fillet' ? 'Radius of the corners' : 'Taken off each side', maker.size, (size) =>
            set({ ...maker, size }),
          )}
          <WhichCorners path={path} at={maker.at} onChange={(at) => set({ ...maker, at })} />
        </>
      );
    case 'offset':
      return (
        <>
          <Choice
            label={closed ? 'Larger or smaller' : 'To which side'}
            value={maker.side}
            options={closed ? SIDES : SIDES_OF_OPEN}
            onChange={(side) => set({ ...maker, side })}
          />
          {length('By how much', maker.by, (by) => set({ ...maker, by }))}
          <Choice
            label="Outer corners"
            value={maker.corners}
            options={CORNERS}
            onChange={(corners) => set({ ...maker, corners })}
          />
          {closed && <OwnDistances maker={maker} path={path} length={length} set={set} />}
        </>
      );
    case 'mirror':
      return (
        <>
          <ByName
            label="Mirrored in"
            about={maker.about}
            paths={lines}
            onChange={(about) => set({ ...maker, about })}
          />
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-rust"
              checked={maker.smooth}
              onChange={() => set({ ...maker, smooth: !maker.smooth })}
            />
            smooth across it
          </label>
        </>
      );
    case 'round':
      return (
        <>
          <ByName label="Round" about={maker.about} paths={circles} onChange={(about) => set({ ...maker, about })} />
          {count('How many', maker.count, (own) => set({ ...maker, count: own }))}
          <Choice
            label="How far round"
            value={maker.turn?.span ?? 'all'}
            options={TURNS}
            onChange={(span) =>
              set({ ...maker, turn: span === 'all' ? null : { degrees: maker.turn?.degrees ?? number('90'), span } })
            }
          />
          {maker.turn && (
            <NumberField
              label="By how many degrees"
              value={maker.turn.degrees.text}
              read={readNumber}
              least={-360}
              most={360}
              suffix="°"
              onAccept={(text) => maker.turn && set({ ...maker, turn: { ...maker.turn, degrees: number(text) } })}
            />
          )}
        </>
      );
    case 'row':
      return (
        <>
          {length(maker.span === 'each' ? 'From one to the next' : 'From the first to the last', maker.step, (step) =>
            set({ ...maker, step }),
          )}
          <Choice
            label="What that is"
            value={maker.span}
            options={SPANS}
            onChange={(span) => set({ ...maker, span })}
          />
          <Choice label="Which way" value={maker.way} options={WAYS} onChange={(way) => set({ ...maker, way })} />
          {count('How many', maker.count, (own) => set({ ...maker, count: own }))}
        </>
      );
    case 'grid':
      return (
        <>
          {length('From one to the next along X', maker.step, (step) => set({ ...maker, step }))}
          {count('How many', maker.count, (own) => set({ ...maker, count: own }))}
          {length('From one row to the next', maker.rowStep, (rowStep) => set({ ...maker, rowStep }))}
          {count('How many rows', maker.rows, (rows) => set({ ...maker, rows }))}
        </>
      );
  }
}

/** All corners, or those whose points are chosen on the board. */
function WhichCorners({
  path,
  at,
  onChange,
}: {
  path: Path;
  at: readonly string[] | null;
  onChange(at: string[] | null): void;
}) {
  const selection = useSession((s) => s.selection);
  const chosen = itemsOf(selection).flatMap((i) => (i.kind === 'point' && i.path === path.id ? [i.point] : []));
  return (
    <>
      <span>{at === null ? 'all corners' : `${at.length} ${at.length === 1 ? 'corner' : 'corners'}`}</span>
      {chosen.length > 0 && (
        <Act onClick={() => onChange(chosen)}>
          {chosen.length === 1 ? 'Only the chosen one' : `Only the ${chosen.length} chosen`}
        </Act>
      )}
      {at !== null && <Act onClick={() => onChange(null)}>All of them</Act>}
    </>
  );
}

/** Pieces of a path that lie at a distance of their own; the chosen piece can be given one. */
function OwnDistances({
  maker,
  path,
  length,
  set,
}: {
  maker: Extract<Maker, { kind: 'offset' }>;
  path: Path;
  length(label: string, value: Expression, accept: (value: Expression) => void): ReactNode;
  set(next: NewMaker): void;
}) {
  const selection = useSession((s) => s.selection);
  const chosen = itemsOf(selection).find((i) => i.kind === 'piece' && i.path === path.id);
  const piece = chosen?.kind === 'piece' && !Object.hasOwn(maker.except, chosen.curve) ? chosen.curve : null;
  const numberOf = (curve: string) => path.uses.findIndex((u) => u.curve === curve) + 1;
  return (
    <div className="flex w-full flex-col gap-1">
      {Object.entries(maker.except)
        .filter(([curve]) => numberOf(curve) > 0)
        .map(([curve, by]) => (
          <div key={curve} className="flex items-center gap-2">
            piece {numberOf(curve)}
            {length(`Distance of piece ${numberOf(curve)}`, by, (value) =>
              set({ ...maker, except: { ...maker.except, [curve]: value } }),
            )}
            <Act
              onClick={() => {
                const { [curve]: _, ...except } = maker.except;
                set({ ...maker, except });
              }}
            >
              As the rest
            </Act>
          </div>
        ))}
      {piece && (
        <Act onClick={() => set({ ...maker, except: { ...maker.except, [piece]: maker.by } })}>
          Give piece {numberOf(piece)} a distance of its own
        </Act>
      )}
    </div>
  );
}

/** A path by its name; where two have the same, by their place in the list as well. */
function ByName({
  label,
  about,
  paths,
  onChange,
}: {
  label: string;
  about: string;
  paths: readonly Path[];
  onChange(about: string): void;
}) {
  const texts = namesApart(paths);
  const at = paths.findIndex((p) => p.id === about);
  return (
    <Select
      label={label}
      value={texts[at] ?? ''}
      options={at < 0 ? ['', ...texts] : texts}
      onChange={(text) => {
        const path = paths[texts.indexOf(text)];
        if (path) onChange(path.id);
      }}
    />
  );
}
