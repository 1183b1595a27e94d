import type { Finding } from '@steady-moth/core/findings';
import { newJob } from '@steady-moth/core/job';
import type { Flaw } from '@steady-moth/core/proof';
import { renderToStaticMarkup } from 'react-dom/server';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { BeforeItGoes } from './BeforeItGoes';

const job = newJob('j', 'Latch plate', '2026-01-01', 'mm');
const wrong = (key: string, says: string): Finding => ({
  key,
  subject: '“Rim”,',
  says,
  where: { kind: 'path', path: 'rim', maker: null },
  gravity: 'wrong',
  certainty: 'sure',
  repairs: [],
});
const open = (k: number): Flaw => ({ kind: 'open', path: 'rim', other: null, at: { x: k, y: 0 }, size: 0.4 });
const shown = (findings: readonly Finding[], flaws: readonly Flaw[]) =>
  renderToStaticMarkup(
    <MemoryRouter>
      <BeforeItGoes job={job} view={null} wrong={findings} flaws={flaws} />
    </MemoryRouter>,
  );
const count = (html: string, text: string) => html.split(text).length - 1;

describe('what is said before files go', () => {
  it('is nothing where nothing is wrong', () => {
    expect(shown([], [])).toBe('');
  });

  it('is each sentence once, however many things it is said of', () => {
    const html = shown([wrong('a', 'has no place.'), wrong('b', 'has no place.'), wrong('c', 'has no form.')], []);
    expect(count(html, '“Rim”, has no place.')).toBe(1);
    expect(count(html, 'has no form.')).toBe(1);
    expect(count(html, 'role="alert"')).toBe(2);
  });

  it('lists a few flaws with the way there, and counts the others', () => {
    const html = shown([], [0, 1, 2, 3, 4, 5, 6].map(open));
    expect(count(html, 'Show me')).toBe(5);
    expect(html).toContain('and 2 more, listed in Trace.');
    expect(html).toContain('is open: its ends are 0.4');
  });
});
