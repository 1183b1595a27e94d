import type { OutlineForm } from '@steady-moth/core/format/outlines';
import { writeSvg } from '@steady-moth/core/format/svg';
import { formsBounds, mapForm, type Vec2 } from '@steady-moth/core/geometry';
import type { JobAction } from '@steady-moth/core/job';
import { formsOf, type Item, placed, type Setting } from '@steady-moth/core/tracing';

/** The layer that our own SVG puts paths in that have none. */
const NO_LAYER = 'part';

/** What is chosen as SVG at true size: as it is pasted here, in another job, or in any program. Null where nothing has a place. */
export function chosenAsSvg(items: readonly Item[], { job, drawn }: Pick<Setting, 'job' | 'drawn'>): string | null {
  const forms = formsOf(items, drawn).flatMap(({ own, form }) => {
    // What is made of a path is what it stands for.
    const all = form === own.form && own.made ? own.made : [form];
    const { role, name, layer } = own.path;
    return all.map((one) => ({ form: one, role, name, layer }));
  });
  return writeSvg({ title: job.name, date: '', forms, unit: job.unit, notes: false });
}

/** Forms out of the clipboard as new paths, their middle at a place, mm, y up; null where a part could not be seen. */
export function pasted(
  forms: readonly OutlineForm[],
  at: Vec2,
  setting: Setting,
): { action: JobAction; items: Item[] } | null {
  const bounds = formsBounds(forms.map((f) => f.form));
  if (!bounds) return null;
  const by = { x: at.x - (bounds.min.x + bounds.max.x) / 2, y: at.y - (bounds.min.y + bounds.max.y) / 2 };
  return placed(
    'paste',
    forms.map(({ form, role, layer }, k) => ({
      form: mapForm(form, (p) => ({ x: p.x + by.x, y: p.y + by.y })),
      path: { name: `Pasted ${k + 1}`, role, layer: layer === NO_LAYER ? null : layer },
    })),
    setting,
  );
}
