import { believeResolution, type Picture, type PictureKind, setKind } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { Act, Choice, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { doubtWords, lensFigure, lensWords, statedWords } from './words';

const KINDS: readonly { value: PictureKind; text: string }[] = [
  { value: 'photo', text: 'photo' },
  { value: 'scan', text: 'scan' },
  { value: 'drawing', text: 'drawing' },
];

/** What the file says of itself, and how far that is believed. */
export function AboutFile({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const { facts, kind, id, locked, calibration } = picture;
  const { resolution } = facts;
  return (
    <>
      <SlipLine
        title="This is a"
        figure={
          <Choice
            label="What the picture is"
            value={kind}
            options={KINDS}
            disabled={locked}
            onChange={(next) => apply(setKind(id, next))}
          />
        }
      >
        {kind === 'photo'
          ? 'taken through a lens from above'
          : 'flat: no tilt and no lens; it may be turned and stretched'}
      </SlipLine>
      <SlipLine title="Size" figure={<span className="figure">{`${facts.widthPx} × ${facts.heightPx}`}</span>}>
        {fixed((facts.widthPx * facts.heightPx) / 1e6, 1)} megapixels, shown upright
      </SlipLine>
      {kind === 'photo' && (
        <SlipLine title="Lens" figure={<span className="figure">{lensFigure(facts)}</span>}>
          {lensWords(facts)}
        </SlipLine>
      )}
      {facts.doubts
        .filter((doubt) => kind === 'photo' && doubt !== 'no-lens')
        .map((doubt) => (
          <SlipLine key={doubt} title={doubtWords(doubt).title}>
            {doubtWords(doubt).text}
          </SlipLine>
        ))}
      {(kind !== 'photo' || resolution) && (
        <SlipLine
          title="Stated scale"
          figure={
            <span className="figure">
              {resolution ? `${fixed(25.4 * resolution.perMmX, 0)} to the inch` : 'not stated'}
            </span>
          }
        >
          {statedWords(resolution, kind, calibration.believeResolution)}
          {resolution && kind !== 'photo' && (
            <div className="mt-1">
              <Act disabled={locked} onClick={() => apply(believeResolution(id, !calibration.believeResolution))}>
                {calibration.believeResolution ? 'Ignore this figure' : 'Use this figure'}
              </Act>
            </div>
          )}
        </SlipLine>
      )}
    </>
  );
}
