import { isCircle, type Path, pathsIn, sketchesOf } from '@steady-moth/core/sketch';
import { SNAP_KINDS, type SnapKind } from '@steady-moth/core/tracing';
import { useState } from 'react';
import { Act, Choice, Select, SlipLine } from '../../../kit';
import { chosenOf } from '../../../part/chosen';
import { ROLE_CHOICES } from '../../../part/roles';
import { useJob } from '../../../session/jobStore';
import { useSession } from '../../../session/sessionStore';
import { type GuideKind, type ShapeKind, useTrace } from '../traceStore';

const SHAPES: Record<ShapeKind, string> = {
  rectangle: 'rectangle',
  slot: 'slot',
  polygon: 'regular polygon',
  'two-rim': 'circle by two rim places',
  'three-rim': 'circle by three rim places',
};
const KINDS = Object.keys(SHAPES) as ShapeKind[];

const HOW: Record<ShapeKind, string> = {
  rectangle: 'Press both ends of its base, then how high it is. Or point and type: the base, then the height.',
  slot: 'Press the middles of both ends, then how wide it is. Or point and type: middle to middle, then the width.',
  polygon: 'Press its middle, then a corner. Or point to a corner and type the size across flats.',
  'two-rim': 'Press two places of the rim that lie across from each other.',
  'three-rim': 'Press three places of the rim.',
};

/** How many corners a polygon has. */
const CORNERS = { least: 3, most: 60 } as const;

/** What the tool in hand asks, and how it is used. */
export function ToolLine({ isGrowing }: { isGrowing: boolean }) {
  const tool = useSession((s) => s.tool);
  if (tool === 'shape') return <ShapeLine />;
  if (tool === 'choose') return <BoxLine />;
  if (tool === 'trim')
    return (
      <SlipLine title="Trim">
        Press what shall go: it goes up to the next crossing on either side. A piece that nothing crosses is drawn on to
        what lies ahead of its nearer end.
      </SlipLine>
    );
  if (tool === 'worn')
    return (
      <SlipLine title="A worn stretch">
        Press both its ends on one piece: it is parted there, and what was seen between them counts for nothing.
      </SlipLine>
    );
  if (tool === 'guide') return <GuideLine />;
  if (tool === 'measure') return <ChainLine />;
  if (tool === 'curve') return <CurveLine />;
  if (tool === 'line' && isGrowing) return <NextLine />;
  return null;
}

const GUIDES: Record<GuideKind, string> = {
  through: 'through two places',
  parallel: 'parallel to a line',
  middle: 'middle between two',
};
const GUIDE_KINDS = Object.keys(GUIDES) as GuideKind[];
const HOW_GUIDED: Record<GuideKind, string> = {
  through: 'Press two places. Or press one and type its direction, as 30 deg, or a length, as 40 at 30.',
  parallel: 'Press a straight piece, then how far beside it. Or point to a side and type the distance.',
  middle: 'Press two straight pieces, or two places.',
};

function GuideLine() {
  const guide = useTrace((s) => s.guide);
  const setGuide = useTrace((s) => s.setGuide);
  return (
    <SlipLine
      title="Construction line"
      figure={
        <Select
          label="Construction line"
          value={GUIDES[guide]}
          options={GUIDE_KINDS.map((kind) => GUIDES[kind])}
          onChange={(text) => setGuide(GUIDE_KINDS.find((kind) => GUIDES[kind] === text) ?? 'through')}
        />
      }
    >
      {HOW_GUIDED[guide]} It is for reference, and not handed over.
    </SlipLine>
  );
}

function ChainLine() {
  const chain = useTrace((s) => s.chain);
  const setChain = useTrace((s) => s.setChain);
  return (
    <SlipLine
      title="Measure"
      figure={
        <Choice
          label="How to measure"
          value={chain ? 'chain' : 'pair'}
          options={[
            { value: 'pair', text: 'two places' },
            { value: 'chain', text: 'on and on' },
          ]}
          onChange={(v) => setChain(v === 'chain')}
        />
      }
    >
      {chain ? 'Each press measures on from the one before; Enter ends it.' : 'Press two places.'}
    </SlipLine>
  );
}

function CurveLine() {
  const through = useTrace((s) => s.curveThrough);
  const setThrough = useTrace((s) => s.setCurveThrough);
  return (
    <SlipLine
      title="Curve"
      figure={
        <Choice
          label="How a curve is drawn"
          value={through ? 'places' : 'bow'}
          options={[
            { value: 'bow', text: 'one bow' },
            { value: 'places', text: 'through places' },
          ]}
          onChange={(v) => setThrough(v === 'places')}
        />
      }
    >
      {through
        ? 'Press one place after the other; Enter ends it. Then “Fewer pieces” tells the same by as few as are near enough.'
        : 'Press where it bows through, then where it ends. Or drag the middle of a piece.'}
    </SlipLine>
  );
}

function NextLine() {
  const tangent = useTrace((s) => s.tangent);
  const setTangent = useTrace((s) => s.setTangent);
  return (
    <SlipLine
      title="Next piece"
      figure={
        <Choice
          label="Next piece"
          value={tangent ? 'tangent' : 'line'}
          options={[
            { value: 'line', text: 'line' },
            { value: 'tangent', text: 'tangent arc' },
          ]}
          onChange={(v) => setTangent(v === 'tangent')}
        />
      }
    >
      <b>D</b> changes it; W and E go on with an arc or a curve through a place. Type a length, or <i>40 at 30</i>,{' '}
      <i>30 deg</i>, <i>40 turn 90</i>, <i>10 x 5 y</i>, <i>12 r 90 turn</i>.
    </SlipLine>
  );
}

function ShapeLine() {
  const shape = useTrace((s) => s.shape);
  const setShape = useTrace((s) => s.setShape);
  return (
    <SlipLine
      title="Shape"
      figure={
        <Select
          label="Shape"
          value={SHAPES[shape]}
          options={KINDS.map((kind) => SHAPES[kind])}
          onChange={(text) => setShape(KINDS.find((kind) => SHAPES[kind] === text) ?? 'rectangle')}
        />
      }
    >
      {shape === 'polygon' && <Corners />}
      {HOW[shape]}
    </SlipLine>
  );
}

function Corners() {
  const corners = useTrace((s) => s.corners);
  const setCorners = useTrace((s) => s.setCorners);
  const [text, setText] = useState(String(corners));
  const accept = () => {
    const n = Number(text);
    if (Number.isInteger(n) && n >= CORNERS.least && n <= CORNERS.most) setCorners(n);
    else setText(String(corners));
  };
  return (
    <label className="my-1 flex items-center gap-2">
      Corners
      <input
        value={text}
        inputMode="numeric"
        onChange={(e) => setText(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="figure w-12 rounded border border-line bg-sheet px-1.5 py-0.5 text-right text-[14px]"
      />
    </label>
  );
}

/** Everything of one kind, chosen in one go. */
function AllOfAKind() {
  const part = useJob((s) => s.state?.job.part);
  const select = useSession((s) => s.select);
  if (!part) return null;
  const all = sketchesOf(part).flatMap((sketch) => pathsIn(sketch).map((path) => ({ sketch, path })));
  const kinds: Record<string, readonly { path: Path }[]> = {
    circles: all.filter(({ sketch, path }) => isCircle(sketch, path)),
    'open paths': all.filter(({ path }) => !path.closed),
    'closed paths': all.filter(({ path }) => path.closed),
    ...Object.fromEntries(ROLE_CHOICES.map(({ value, text }) => [text, all.filter(({ path }) => path.role === value)])),
  };
  return (
    <div className="mt-1 flex items-center gap-2">
      All of a kind
      <Select
        label="All of a kind"
        value=""
        options={['', ...Object.keys(kinds).filter((k) => kinds[k]!.length > 0)]}
        onChange={(kind) => select(chosenOf((kinds[kind] ?? []).map(({ path }) => ({ kind: 'path', path: path.id }))))}
      />
    </div>
  );
}

function BoxLine() {
  const touches = useTrace((s) => s.boxTouches);
  const setTouches = useTrace((s) => s.setBoxTouches);
  return (
    <SlipLine
      title="A box chooses"
      figure={
        <Choice
          label="A box chooses"
          value={touches ? 'touched' : 'enclosed'}
          options={[
            { value: 'enclosed', text: 'enclosed' },
            { value: 'touched', text: 'touched' },
          ]}
          onChange={(v) => setTouches(v === 'touched')}
        />
      }
    >
      Enclosed: what lies all within it. Drag a box, or press a path. <b>Shift</b> adds. <b>Ctrl A</b> chooses
      everything; <b>Ctrl C</b> and <b>Ctrl V</b> copy and paste, also into another job.
      <AllOfAKind />
    </SlipLine>
  );
}

const SNAP_WORDS: Record<SnapKind, string> = {
  edges: 'edges of the picture',
  points: 'points',
  middles: 'middles',
  centres: 'centers',
  crossings: 'crossings',
  feet: 'square to a piece',
  tangents: 'tangent to an arc',
  paths: 'along pieces',
  extensions: 'in line with pieces',
};

/** What new points snap to; each kind can be left out for a while. */
export function SnapLine() {
  const off = useTrace((s) => s.snapOff);
  const setOff = useTrace((s) => s.setSnapOff);
  const [open, setOpen] = useState(false);
  return (
    <SlipLine
      title="Snapping to"
      figure={
        <Act aria-expanded={open} onClick={() => setOpen(!open)}>
          {off.length === 0 ? 'everything' : off.length === SNAP_KINDS.length ? 'nothing' : `all but ${off.length}`}
        </Act>
      }
    >
      {open && (
        <div className="my-1 grid grid-cols-2 gap-x-3 gap-y-0.5">
          {SNAP_KINDS.map((kind) => (
            <label key={kind} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={!off.includes(kind)}
                onChange={() => setOff(off.includes(kind) ? off.filter((k) => k !== kind) : [...off, kind])}
                className="accent-rust"
              />
              {SNAP_WORDS[kind]}
            </label>
          ))}
        </div>
      )}
      Hold <b>F</b>: no snapping. <b>G</b> takes the next of several things to snap to.
    </SlipLine>
  );
}
