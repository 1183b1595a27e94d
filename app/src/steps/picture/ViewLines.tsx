import { changeView, type Picture, removeView, type Side, type View } from '@steady-moth/core/job';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { Act, Choice, LengthField, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';

const SIDES: readonly { value: Side; text: string }[] = [
  { value: 'top', text: 'top' },
  { value: 'front', text: 'front' },
  { value: 'side', text: 'side' },
];

/** The views that a picture is cut into: each on its own plane, all sharing the picture's calibration. */
export function ViewLines({ picture, unit }: { picture: Picture; unit: LengthUnit }) {
  const take = useSession((s) => s.take);
  const tool = useSession((s) => s.tool);
  return (
    <SlipLine
      id="line-view"
      title="Views"
      figure={picture.views.length ? String(picture.views.length) : 'one, all of it'}
    >
      {picture.views.map((view) => (
        <ViewRow key={view.id} picture={picture} view={view} unit={unit} />
      ))}
      <Act disabled={picture.locked} aria-pressed={tool === 'view'} onClick={() => take('view')}>
        {tool === 'view'
          ? 'Drag round it on the picture'
          : picture.views.length
            ? 'Cut out another view'
            : 'Cut out a view'}
      </Act>
      {picture.views.length === 0 && ', when a page shows the thing from several sides.'}
      {tool === 'view' &&
        picture.views.length > 0 &&
        ', or drag a side of one that is there; about a line where the crop is.'}
    </SlipLine>
  );
}

function ViewRow({ picture, view, unit }: { picture: Picture; view: View; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const [name, setName] = useState(view.name);
  useEffect(() => setName(view.name), [view.name]);
  const change = (part: Partial<Omit<View, 'id'>>) => apply(changeView(picture.id, view.id, part));
  const offset =
    view.offsetMm === 0 ? '' : writeLength(view.offsetMm, null, unit).value.replace(/0+$/, '').replace(/\.$/, '');
  return (
    <fieldset disabled={picture.locked} className="mb-2 min-w-0 border-line border-l pl-2.5">
      <legend className="sr-only">{view.name}</legend>
      <div className="flex items-center justify-between gap-2">
        <input
          aria-label="Name of the view"
          value={name}
          maxLength={200}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => (name.trim() && name !== view.name ? change({ name: name.trim() }) : setName(view.name))}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="w-32 rounded border border-line bg-sheet px-1.5 py-0.5 text-ink"
        />
        <Act onClick={() => apply(removeView(picture.id, view.id))} aria-label={`Remove the view ${view.name}`}>
          Remove
        </Act>
      </div>
      <div className="mt-1 flex items-center justify-between gap-2">
        seen from the{' '}
        <Choice label="Seen from" value={view.side} options={SIDES} onChange={(side) => change({ side })} />
      </div>
      <div className="mt-1 flex items-center justify-between gap-2">
        its plane off zero
        <LengthField
          label={`How far its plane lies from zero: ${view.name}`}
          value={offset}
          unit={unit}
          narrow
          place
          onAccept={(mm) => change({ offsetMm: mm })}
        />
      </div>
      {view.offsetMm !== 0 && <Act onClick={() => change({ offsetMm: 0 })}>In the plane of zero</Act>}
    </fieldset>
  );
}
