import { forgetBefore, type JobDocument, type Picture } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { FileButton } from '../../door/FileButton';
import { Act, Choice, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { type CompareMode, useSession } from '../../session/sessionStore';
import { Differences } from './Differences';

const WAYS = [
  { value: 'now', text: 'now' },
  { value: 'before', text: 'before' },
  { value: 'difference', text: 'differences' },
] as const;

/** How long each of both is seen while they are blinked, ms. */
const BLINK_MS = 600;

/** Swapping the picture for a newer one, and comparing both afterwards. */
export function BeforeLine({ job, picture, onSwap }: { job: JobDocument; picture: Picture; onSwap(file: File): void }) {
  const apply = useJob((s) => s.apply);
  const compare = useSession((s) => s.compare);
  const setCompare = useSession((s) => s.setCompare);
  const differing = useSession((s) => s.differing);
  const [blinking, setBlinking] = useState(false);
  const { before } = picture;
  useEffect(() => {
    if (!blinking) return;
    const timer = setInterval(() => {
      const next: CompareMode = useSession.getState().compare === 'before' ? null : 'before';
      useSession.getState().setCompare(next);
    }, BLINK_MS);
    return () => {
      clearInterval(timer);
      useSession.getState().setCompare(null);
    };
  }, [blinking]);
  return (
    <SlipLine title="Newer picture">
      <FileButton
        label="Swap the picture for another file"
        name="Picture that takes its place"
        multiple={false}
        disabled={picture.locked}
        onFiles={(files) => files[0] && onSwap(files[0])}
      />
      {!before && ': truing, zero and traces stay.'}
      {before && (
        <div className="mt-2 flex flex-col gap-2">
          <span>
            It took the place of <b className="font-medium">{before.fileName}</b>.
          </span>
          <Choice
            label="What is shown"
            value={compare ?? 'now'}
            options={WAYS}
            onChange={(way) => {
              setBlinking(false);
              setCompare(way === 'now' ? null : way);
            }}
          />
          <span className="flex gap-4">
            <Act aria-pressed={blinking} onClick={() => setBlinking(!blinking)}>
              {blinking ? 'Stop blinking' : 'Blink both'}
            </Act>
            <Act
              disabled={picture.locked}
              onClick={() => {
                setBlinking(false);
                setCompare(null);
                apply(forgetBefore(picture.id));
              }}
            >
              Forget the old one
            </Act>
          </span>
          {compare === 'difference' && (
            <span aria-live="polite">
              <Key colour="#9c3426" /> only before, <Key colour="#256f62" /> only now
              {differing !== null && (
                <>
                  ; <span className="figure">{fixed(100 * differing, 1)} %</span> of what is seen differs
                </>
              )}
              .
            </span>
          )}
          {compare === 'difference' && <Differences job={job} picture={picture} />}
        </div>
      )}
    </SlipLine>
  );
}

function Key({ colour }: { colour: string }) {
  return (
    <svg viewBox="0 0 10 10" className="inline h-2.5 w-2.5" aria-hidden>
      <rect width="10" height="10" fill={colour} />
    </svg>
  );
}
