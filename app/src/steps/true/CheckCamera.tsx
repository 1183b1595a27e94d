import type { CheckPicture } from '@steady-moth/core/calibration';
import { fixed } from '@steady-moth/core/units';
import { useRef, useState } from 'react';
import { calibrating, files, pixels } from '../../compute';
import { FileButton } from '../../door/FileButton';
import { Button, LengthField } from '../../kit';
import { Modal } from '../../kit/Modal';
import { download } from '../../session/download';
import { cameraSentence, findSentence, pictureSentence } from '../../session/sentences';
import type { KeptCamera } from '../../session/storage/cameras';
import { useUnit } from '../../session/useUnit';

interface Shot {
  name: string;
  /** Null until it was looked at; a sentence where it cannot be used. */
  fault: string | null;
  picture: (Omit<CheckPicture, 'grid'> & { crossings: CheckPicture['grid']['crossings'] }) | null;
}

/** ± of ten pitches by the caliper, where none is typed, mm. */
const CALIPER_PLUS_MINUS_MM = 0.05;
const FEWEST = 4;
const MOST = 8;

/** Checks a camera with 4 to 8 pictures of the printed grid. */
export function CheckCamera({ onKeep, onClose }: { onKeep(camera: KeptCamera): void; onClose(): void }) {
  const [unit] = useUnit();
  const [shots, setShots] = useState<Shot[]>([]);
  const [reading, setReading] = useState<string | null>(null);
  const [ten, setTen] = useState({ mm: 100, plusMinusMm: 0.4, checked: false });
  const [found, setFound] = useState<{ sentence: string; camera: Omit<KeptCamera, 'name'> | null } | null>(null);
  const [name, setName] = useState('');
  const left = useRef(false);
  const good = shots.flatMap((s) => s.picture ?? []);

  const take = async (chosen: readonly File[]) => {
    setFound(null);
    for (const file of chosen.slice(0, MOST)) {
      if (left.current) return;
      setReading(file.name);
      const shot = await look(file).catch(
        (): Shot => ({ name: file.name, fault: 'It could not be read.', picture: null }),
      );
      setShots((before) => [...before.filter((s) => s.name !== shot.name), shot].slice(-MOST));
    }
    setReading(null);
  };
  const work = async () => {
    setReading('the camera');
    const result = await calibrating.call((w) =>
      w.checkCamera(
        good.map(({ facts, crossings }) => ({
          facts,
          grid: { crossings, pitchMm: ten.mm / 10, plusMinusShare: ten.plusMinusMm / ten.mm },
        })),
      ),
    );
    setReading(null);
    if (!result.ok) {
      setFound({ sentence: cameraSentence(result.reason), camera: null });
      return;
    }
    const { widthPx, heightPx, focal35Mm } = good[0]!.facts;
    setFound({
      sentence: `The lens is known to ± ${fixed(100 * result.plusMinusShare, 2)} %; the crossings lie within ${fixed(result.rmsPx, 2)} px of it.`,
      camera: { ...result.camera, widthPx, heightPx, focal35Mm },
    });
  };
  return (
    <Modal
      title="Check a camera"
      description="Once for a camera and a zoom; every later picture from it is then worth more."
      className="w-[560px] max-w-full"
      onClose={() => {
        left.current = true;
        onClose();
      }}
    >
      <ol className="mt-4 grid list-decimal gap-3 pl-5">
        <li>
          Print the grid at 100 %.{' '}
          <Button
            onClick={() =>
              void files
                .call((w) => w.writeGridSheet())
                .then((bytes) => download(bytes, 'grid-sheet.pdf', 'application/pdf'))
            }
          >
            Save the grid sheet (PDF)
          </Button>
        </li>
        <li>
          Measure ten pitches with the caliper:{' '}
          <LengthField
            label="Ten pitches"
            value={ten.checked ? String(Number(ten.mm.toFixed(3))) : ''}
            unit={unit}
            onAccept={(mm, spread) => setTen({ mm, plusMinusMm: spread ?? CALIPER_PLUS_MINUS_MM, checked: true })}
          />
          {!ten.checked && <span className="text-[12.5px] text-ink2"> Unmeasured, it is taken as 100 ± 0.4 mm.</span>}
        </li>
        <li>
          Take 4 to 8 pictures of it, from above and tilted from all four sides, and bring them here:{' '}
          <FileButton label="Choose pictures" name="Pictures of the grid" onFiles={(list) => void take(list)} />
          <ul aria-label="Pictures of the grid, read" className="mt-1 text-[12.5px]">
            {shots.map((s) => (
              <li key={s.name} className={s.fault ? 'text-brick' : 'text-ink2'}>
                {s.name}: {s.fault ?? `${s.picture?.crossings.length} crossings`}
              </li>
            ))}
          </ul>
        </li>
      </ol>
      <p role="status" className="mt-3 min-h-5 text-[13px]">
        {reading ? `Looking at ${reading} …` : found?.sentence}
      </p>
      {found?.camera && (
        <form
          className="mt-2 flex items-center gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (found.camera && name.trim()) onKeep({ ...found.camera, name: name.trim() });
          }}
        >
          <input
            aria-label="Name of the camera"
            placeholder="my phone, checked"
            value={name}
            maxLength={80}
            onChange={(e) => setName(e.target.value)}
            className="grow rounded border border-line bg-sheet px-2 py-1"
          />
          <Button strong type="submit" disabled={!name.trim()}>
            Keep it
          </Button>
        </form>
      )}
      <div className="mt-4 flex justify-end gap-3">
        <Button
          onClick={() => {
            left.current = true;
            onClose();
          }}
        >
          Close
        </Button>
        <Button strong disabled={good.length < FEWEST || reading !== null} onClick={() => void work()}>
          Work it out
        </Button>
      </div>
    </Modal>
  );
}

/** Finds the grid in one file. */
async function look(file: File): Promise<Shot> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const judged = await files.call((w) => w.judge(bytes));
  if (!judged.ok) return { name: file.name, fault: pictureSentence(judged), picture: null };
  const found = await pixels.call((w) => w.findGridIn(new Blob([bytes as BlobPart], { type: judged.mime })), {
    silentMs: 120_000,
  });
  if (!found.grid.ok) return { name: file.name, fault: findSentence('grid', found.grid.reason), picture: null };
  const facts = { ...judged.facts, widthPx: found.widthPx, heightPx: found.heightPx };
  return { name: file.name, fault: null, picture: { facts, crossings: found.grid.crossings } };
}
