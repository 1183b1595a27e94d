import { deletePaths } from '@steady-moth/core/job';
import type { Path } from '@steady-moth/core/sketch';
import {
  aligned,
  boxOf,
  broughtTogether,
  type Change,
  carried,
  changed,
  copied,
  distributed,
  type Item,
  pathsOfItems,
  type Setting,
  type Side,
} from '@steady-moth/core/tracing';
import type { LengthUnit } from '@steady-moth/core/units';
import { fixed, parsePlace } from '@steady-moth/core/units';
import { useState } from 'react';
import { Act, LengthField, Select } from '../../../kit';
import { chosenOf } from '../../../part/chosen';
import { useJob } from '../../../session/jobStore';
import { useSession } from '../../../session/sessionStore';
import { namesApart } from './namesApart';

const WAYS = ['move', 'turn', 'scale', 'mirror', 'align', 'space evenly'] as const;
type Way = (typeof WAYS)[number];
const SIDES: readonly Side[] = ['left', 'right', 'top', 'bottom', 'upright middle', 'level middle'];
const UPRIGHT = 'upright, through its middle';
const LEVEL = 'level, through its middle';

/** What can be done to what is chosen, by exact figures: in its place, or to a copy of it. */
export function Changing({
  items,
  unit,
  lines,
  setting,
}: {
  items: readonly Item[];
  unit: LengthUnit;
  /** Straight open paths, in which something can be mirrored. */
  lines: readonly Path[];
  setting: Setting;
}) {
  const apply = useJob((s) => s.apply);
  const select = useSession((s) => s.select);
  const [way, setWay] = useState<Way>('move');
  const [x, setX] = useState('0');
  const [y, setY] = useState('0');
  const [angle, setAngle] = useState('90');
  const [factor, setFactor] = useState('2');
  const [line, setLine] = useState(UPRIGHT);
  const [side, setSide] = useState<Side>('left');
  const [along, setAlong] = useState<'x' | 'y'>('x');
  const [fault, setFault] = useState<string | null>(null);
  const paths = pathsOfItems(items);
  const isWhole = items.every((i) => i.kind === 'path');
  const box = boxOf(items, setting.drawn);
  if (!box) return null;
  const middle = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };

  const read = (): Change | null => {
    if (way === 'move') {
      const [dx, dy] = [parsePlace(x, unit), parsePlace(y, unit)];
      return dx === null || dy === null ? null : { kind: 'move', x: dx, y: dy };
    }
    const number = (text: string) => Number(text.trim().replace('−', '-').replace(',', '.'));
    if (way === 'turn') {
      const degrees = number(angle);
      return Number.isFinite(degrees) && angle.trim() !== ''
        ? { kind: 'turn', angle: (degrees * Math.PI) / 180, about: middle }
        : null;
    }
    if (way === 'scale') {
      const by = number(factor);
      return by > 0 && by <= 1000 ? { kind: 'scale', factor: by, about: middle } : null;
    }
    if (line === UPRIGHT) return { kind: 'mirror', a: middle, b: { x: middle.x, y: middle.y + 1 } };
    if (line === LEVEL) return { kind: 'mirror', a: middle, b: { x: middle.x + 1, y: middle.y } };
    const own = setting.drawn.paths.find((d) => d.path.id === lines[namesApart(lines).indexOf(line)]?.id)?.form;
    const [first] = own?.kind === 'chain' ? own.segments : [];
    const last = own?.kind === 'chain' ? own.segments.at(-1) : undefined;
    return first && last ? { kind: 'mirror', a: first.from, b: last.to } : null;
  };
  const run = (asCopy: boolean) => {
    setFault(null);
    if (way === 'align' || way === 'space evenly') {
      const action = way === 'align' ? aligned(items, side, setting) : distributed(items, along, setting);
      if (action) apply(action);
      else setFault(way === 'align' ? 'Nothing of it has a place.' : 'Choose three paths or more.');
      return;
    }
    const change = read();
    if (!change) return setFault(UNREAD[way]);
    if (!asCopy) return apply(changed(items, change, setting));
    const made = copied(items, change, setting);
    if (!made) return setFault('A part of it would lie beyond what the camera could see.');
    apply(made.action);
    select(chosenOf(made.items));
  };
  return (
    <section aria-label="Change what is chosen" className="border-line border-t py-2.5 pl-9 text-[12.5px]">
      <div className="flex items-baseline justify-between gap-2">
        <span className="font-medium text-[14px]">{items.length === 1 ? 'Change it' : `${items.length} chosen`}</span>
        {items.length > 1 && isWhole && (
          <Act
            onClick={() => {
              apply(deletePaths(paths));
              select(null);
            }}
          >
            Delete them
          </Act>
        )}
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Select label="What to do" value={way} options={WAYS} onChange={(v) => setWay(v as Way)} />
        <Act onClick={() => run(false)}>{DO[way]}</Act>
        {way !== 'align' && way !== 'space evenly' && <Act onClick={() => run(true)}>{DO[way]} a copy</Act>}
      </div>
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        {way === 'move' && (
          <>
            X{' '}
            <LengthField label="Along X" narrow place hidden value={x} unit={unit} onAccept={(_m, _p, t) => setX(t)} />Y{' '}
            <LengthField label="Along Y" narrow place hidden value={y} unit={unit} onAccept={(_m, _p, t) => setY(t)} />
          </>
        )}
        {way === 'turn' && (
          <Figure label="By how many degrees, left positive" value={angle} onChange={setAngle} after="°" />
        )}
        {way === 'scale' && <Figure label="How many times as large" value={factor} onChange={setFactor} after="×" />}
        {way === 'mirror' && (
          <Select
            label="Mirrored in"
            value={line}
            options={[UPRIGHT, LEVEL, ...namesApart(lines)]}
            onChange={setLine}
          />
        )}
        {way === 'align' && (
          <Select label="By which side" value={side} options={SIDES} onChange={(v) => setSide(v as Side)} />
        )}
        {way === 'space evenly' && (
          <Select
            label="Along"
            value={along === 'x' ? 'along X' : 'along Y'}
            options={['along X', 'along Y']}
            onChange={(v) => setAlong(v === 'along X' ? 'x' : 'y')}
          />
        )}
      </div>
      <BringTogether items={items} setting={setting} unit={unit} />
      {fault && (
        <p role="alert" className="mt-1 text-brick">
          {fault}
        </p>
      )}
    </section>
  );
}

const DO: Record<Way, string> = {
  move: 'Move',
  turn: 'Turn',
  scale: 'Scale',
  mirror: 'Mirror',
  align: 'Align',
  'space evenly': 'Space evenly',
};

const UNREAD: Record<'move' | 'turn' | 'scale' | 'mirror', string> = {
  move: 'Type how far along X and along Y; zero and less are allowed.',
  turn: 'Type how many degrees; left is positive.',
  scale: 'Type how many times as large, more than 0 and up to 1000.',
  mirror: 'That path is no straight line any more.',
};

function Figure({
  label,
  value,
  onChange,
  after,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
  after: string;
}) {
  return (
    <span className="figure text-[14px]">
      <input
        aria-label={label}
        value={value}
        inputMode="decimal"
        autoComplete="off"
        onChange={(e) => onChange(e.target.value)}
        className="w-16 rounded border border-line bg-sheet px-1.5 py-0.5 text-right"
      />{' '}
      {after}
    </span>
  );
}

/** Offered where four points are chosen: the first goes to the second, the third to the fourth, with all of their path. */
function BringTogether({ items, setting, unit }: { items: readonly Item[]; setting: Setting; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const points = items.flatMap((i) => (i.kind === 'point' ? [i] : []));
  const [a, b, c, d] = points;
  if (points.length !== 4 || items.length !== 4 || !a || !b || !c || !d) return null;
  if (a.path !== c.path || b.path !== d.path || a.path === b.path) return null;
  const [p, q, r, s] = [a, b, c, d].map((i) => setting.drawn.placeOf(i.point));
  const how = p && q && r && s ? broughtTogether([p, r], [q, s]) : null;
  if (!how) return null;
  const left = unit === 'in' ? `${fixed(how.leftMm / 25.4, 4)} in` : `${fixed(how.leftMm, 3)} mm`;
  return (
    <p className="mt-1.5">
      <Act onClick={() => apply(carried('bring two halves together', [a.path], how.at, setting))}>
        Bring both together
      </Act>{' '}
      <span className="text-ink2">
        the first chosen point goes to the second, the third to the fourth; {left} apart is left at each.
      </span>
    </p>
  );
}
