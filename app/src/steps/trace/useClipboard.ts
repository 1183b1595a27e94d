import { deletePaths } from '@steady-moth/core/job';
import { pathsOfItems, type Setting } from '@steady-moth/core/tracing';
import { useEffect, useRef } from 'react';
import { isTextField } from '../../board/useViewControls';
import { files } from '../../compute';
import { middleOf } from '../../frames/view';
import { chosenOf, itemsOf } from '../../part/chosen';
import { useJob } from '../../session/jobStore';
import { useReadout } from '../../session/readoutStore';
import { outlineSentence } from '../../session/sentences';
import { useSession } from '../../session/sessionStore';
import { chosenAsSvg, pasted } from './clipboard';

const say = (notice: string) => useJob.setState({ notice });

/** Copies and cuts what is chosen as SVG, and pastes SVG: between jobs, and to and from other programs. */
export function useClipboard(setting: Setting, isTrue: boolean): void {
  const latest = useRef({ setting, isTrue });
  latest.current = { setting, isTrue };
  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      const { setting: now, isTrue: hasSize } = latest.current;
      const { selection, select } = useSession.getState();
      const items = itemsOf(selection);
      if (isTextField(event.target) || items.length === 0 || window.getSelection()?.toString()) return;
      const svg = hasSize ? chosenAsSvg(items, now) : null;
      event.preventDefault();
      if (!svg) return say('The picture is not true yet, so what is traced has no size to be copied with.');
      event.clipboardData?.setData('text/plain', svg);
      event.clipboardData?.setData('image/svg+xml', svg);
      if (event.type !== 'cut') return;
      useJob.getState().apply(deletePaths(pathsOfItems(items)));
      select(null);
    };
    const onPaste = (event: ClipboardEvent) => {
      const data = event.clipboardData;
      if (!data || isTextField(event.target) || data.files.length > 0) return;
      const text = data.getData('image/svg+xml') || data.getData('text/plain');
      if (!text.trim()) return;
      event.preventDefault();
      void paste(text, latest.current);
    };
    window.addEventListener('copy', onCopy);
    window.addEventListener('cut', onCopy);
    window.addEventListener('paste', onPaste);
    return () => {
      window.removeEventListener('copy', onCopy);
      window.removeEventListener('cut', onCopy);
      window.removeEventListener('paste', onPaste);
    };
  }, []);
}

async function paste(text: string, { setting, isTrue }: { setting: Setting; isTrue: boolean }): Promise<void> {
  if (!/<svg[\s>]/i.test(text)) return say('What was copied is no drawing. Paths copied here can be pasted, and SVG.');
  if (!isTrue) return say('The picture is not true yet, so a drawing has no size here. Make it true first.');
  const read = await files.call((w) => w.readForms(text)).catch(() => null);
  if (!read) return say('What was copied could not be read. Copy it once more.');
  if (!read.ok) return say(outlineSentence(read.reason, 'svg'));
  const { xMm, yMm } = useReadout.getState().reading;
  const { view } = useSession.getState();
  const middle = view ? middleOf(view) : { x: 0, y: 0 };
  const made = pasted(read.outlines.forms, xMm === null || yMm === null ? middle : { x: xMm, y: yMm }, setting);
  if (!made) return say('Some of it would lie beyond what the camera could see. Zoom to where it shall go first.');
  useJob.getState().apply(made.action);
  useSession.getState().select(chosenOf(made.items));
}
