import { changeLayer, type JobDocument } from '@steady-moth/core/job';
import { pathsOf } from '@steady-moth/core/sketch';
import { Fold } from '../../../kit/Fold';
import { useJob } from '../../../session/jobStore';

/** Names of the layers that paths lie on, each once. */
const layersOf = ({ part }: JobDocument): string[] => [
  ...new Set(pathsOf(part).flatMap((p) => (p.layer ? [p.layer] : []))),
];

/** The layers of a job: each can be hidden while one traces, or locked. */
export function LayerLines({ job }: { job: JobDocument }) {
  const apply = useJob((s) => s.apply);
  const names = layersOf(job);
  if (names.length === 0) return null;
  const stateOf = (name: string) => job.part.layers.find((l) => l.name === name) ?? { hidden: false, locked: false };
  return (
    <Fold name="layers" title="Layers" state={names.length} isUsed={job.part.layers.length > 0}>
      <table className="mb-2 ml-9 text-[12.5px]">
        <tbody>
          {names.map((name) => {
            const { hidden, locked } = stateOf(name);
            return (
              <tr key={name}>
                <td className="max-w-32 truncate pr-4 font-medium">{name}</td>
                <td className="pr-4">
                  <label className="flex items-center gap-1.5">
                    <input
                      type="checkbox"
                      className="accent-rust"
                      aria-label={`Show layer ${name}`}
                      checked={!hidden}
                      onChange={() => apply(changeLayer(name, { hidden: !hidden, locked }))}
                    />
                    shown
                  </label>
                </td>
                <td>
                  <label className="flex items-center gap-1.5">
                    <input
                      type="checkbox"
                      className="accent-rust"
                      aria-label={`Lock layer ${name}`}
                      checked={locked}
                      onChange={() => apply(changeLayer(name, { hidden, locked: !locked }))}
                    />
                    locked
                  </label>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="pb-2 pl-9 text-[12.5px] text-ink2">What is hidden here is handed over all the same.</p>
    </Fold>
  );
}
