import type { PicturePoint } from '@steady-moth/core/calibration';
import type { FoundThing } from '@steady-moth/core/find';
import { datumOf, type PickRecord, type Picture } from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import type { PlacedFigure, ReadDimension } from '@steady-moth/core/read';
import type { LengthUnit } from '@steady-moth/core/units';
import { useCallback, useMemo } from 'react';
import type { Drawing } from '../../board/Board';
import { Cased, PickMark, Tag } from '../../board/marks';
import { type ScreenPlace, screenPlace } from '../../frames/place';
import { toScreen } from '../../frames/view';
import { LengthFigure } from '../../kit';
import { useSession } from '../../session/sessionStore';
import { type HeldPick, type PickDraft, referenceSpans, turnedSpans } from './picks';
import { DimensionMarks, RulerFigureMarks } from './ReadMarks';
import { ReferenceMarks, StrokeMarks } from './ReferenceMarks';
import { useTrue } from './trueStore';
import { useSpan } from './useSpan';

/** What was said of the picture, drawn on it: known lengths, spot checks, the direction of X, zero. */
export function TrueOverlay({
  view,
  mapper,
  aim,
  picture,
  common,
  draft,
  leads,
  first,
  unit,
  certainty,
  isTrue,
  offers,
  figures,
  dimensions,
}: Drawing & {
  picture: Picture;
  /** Places of it that other pictures show as well. */
  common: readonly HeldPick[];
  draft: PickDraft | null;
  /** Zero and direction are its own, and not those of a picture that it is joined with. */
  leads: boolean;
  first: PickRecord | null;
  unit: LengthUnit;
  certainty: Certainty | null;
  isTrue: boolean;
  /** What was found by itself. */
  offers: readonly FoundThing[];
  /** What was read: along rulers, and on a drawing. */
  figures: readonly PlacedFigure[];
  dimensions: readonly ReadDimension[];
}) {
  const selection = useSession((s) => s.selection);
  const select = useSession((s) => s.select);
  const pending = useTrue((s) => s.pending);
  // The same as long as view and map are: the pointer moves far more often than what lies under it.
  const at = useCallback(
    (p: PicturePoint): ScreenPlace | null => {
      const place = mapper.toPlace(p);
      return place && toScreen(view, place);
    },
    [mapper, view],
  );
  const found = useTrue((s) => s.found);
  const foundMarks = useMemo(() => found && { ...found.found, kind: found.kind }, [found]);
  const { calibration } = picture;
  const { wanted } = calibration;
  const place = selection?.kind === 'place' ? selection : null;
  const datum = datumOf(picture);
  const span = useSpan(at);
  const begun = first && at(first);
  const seeking = useTrue((s) => s.common);
  const begunHere = seeking?.picture === picture.id ? at(seeking.pick) : null;
  // A zero that is worked out, from edges or a rim, is the board's own once the picture is true.
  const worked = isTrue ? toScreen(view, { x: 0, y: 0 }) : null;
  const zeroAt = datum.zero && ('uPx' in datum.zero ? at(datum.zero) : worked);
  return (
    <>
      {calibration.references.map((y) => (
        <ReferenceMarks key={`${y.id} marks`} reference={y} at={at} />
      ))}
      {referenceSpans(picture).map((s) => {
        const y = calibration.references.find((other) => other.id === s.id);
        const figure =
          y?.kind === 'known-length' ? <LengthFigure mm={y.lengthMm} plusMinusMm={y.plusMinusMm} unit={unit} /> : null;
        return span(s.id, s.from, s.to, 'var(--verdigris)', undefined, s.label, figure, s.span);
      })}
      {offers.map((thing, k) =>
        thing.kind === 'ruler' ? (
          <StrokeMarks key={k} graduations={thing.found.graduations} at={at} colour="var(--rust)" />
        ) : (
          <ReferenceMarks key={k} reference={{ ...thing.found, kind: thing.kind }} at={at} colour="var(--rust)" />
        ),
      )}
      {foundMarks && <ReferenceMarks reference={foundMarks} at={at} colour="var(--rust)" />}
      {pending?.ruler && <StrokeMarks graduations={pending.ruler.graduations} at={at} colour="var(--rust)" />}
      <RulerFigureMarks figures={figures} at={at} />
      <DimensionMarks read={dimensions} at={at} />
      {wanted &&
        span(
          'wanted',
          wanted.from,
          wanted.to,
          'var(--rust)',
          '8 3 2 3',
          'Wanted length',
          <LengthFigure mm={wanted.lengthMm} plusMinusMm={null} unit={unit} />,
        )}
      {place && <ChosenPlace at={at(place)} />}
      {calibration.spotChecks.map((s, k) => {
        const found = certainty?.spotChecks[s.id]?.found;
        return span(
          s.id,
          s.from,
          s.to,
          'var(--soot)',
          '5 4',
          `Spot check ${k + 1}`,
          found ? <LengthFigure mm={found.value} plusMinusMm={found.plusMinus} unit={unit} /> : null,
        );
      })}
      {turnedSpans(picture).map((s) => span(s.id, s.from, s.to, 'var(--verdigris)', '10 3', s.label, 'edge', s.span))}
      {leads &&
        calibration.axis &&
        'from' in calibration.axis &&
        span(
          'axis',
          calibration.axis.from,
          calibration.axis.to,
          'var(--soot)',
          '9 4',
          'Direction',
          `along ${calibration.axis.along.toUpperCase()}`,
        )}
      {common.map((p, k) => {
        const place = at(draft?.id === p.id ? draft.pick : p.pick);
        return (
          place && (
            <g key={p.id}>
              <PickMark
                at={place}
                colour="var(--verdigris)"
                label={p.label}
                focused={selection?.kind === 'pick' && selection.id === p.id}
                onFocus={() => select({ kind: 'pick', id: p.id, end: 'from' })}
              />
              <Tag at={screenPlace(place.x + 16, place.y - 16)}>{k + 1}</Tag>
            </g>
          )
        );
      })}
      {begunHere && <PickMark at={begunHere} colour="var(--rust)" label="First of a common point" />}
      {pending && span('pending', pending.from, pending.to, 'var(--rust)', '4 4', 'Reading', null)}
      {leads && datum.zero && (
        <Zero
          at={zeroAt}
          selected={selection?.kind === 'pick' && selection.id === 'zero'}
          onFocus={() => select({ kind: 'pick', id: 'zero', end: 'from' })}
          own={calibration.zero !== null && 'pick' in calibration.zero}
        />
      )}
      {begun && (
        <>
          {aim && (
            <Cased
              d={`M ${begun.x} ${begun.y} L ${aim.screen.x} ${aim.screen.y}`}
              colour="var(--rust)"
              width={1.6}
              dash="4 4"
            />
          )}
          <PickMark at={begun} colour="var(--rust)" label="First point" />
        </>
      )}
    </>
  );
}

/** A found place that was clicked on. */
function ChosenPlace({ at }: { at: ScreenPlace | null }) {
  return (
    at && <circle cx={at.x} cy={at.y} r={9} fill="none" stroke="var(--rust)" strokeWidth={2} strokeDasharray="3 3" />
  );
}

/** Zero: a right angle whose sides run along X and Y. */
function Zero({
  at,
  selected,
  own,
  onFocus,
}: {
  at: ScreenPlace | null;
  selected: boolean;
  own: boolean;
  onFocus(): void;
}) {
  if (!at) return null;
  return (
    <g>
      {own && <PickMark at={at} colour="var(--soot)" label="Zero" focused={selected} onFocus={onFocus} />}
      <Cased d={`M ${at.x} ${at.y - 34} V ${at.y} H ${at.x + 34}`} width={2.2} />
      <Cased d={`M ${at.x + 29} ${at.y - 4} l 5 4 l -5 4 M ${at.x - 4} ${at.y - 29} l 4 -5 l 4 5`} width={2} />
    </g>
  );
}
