import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { Choice, degrees, LengthFigure, Notice } from '.';

const text = (html: string) => html.replace(/<[^>]*>/g, '');
const figure = (mm: number, plusMinusMm: number | null, unit: 'mm' | 'in') =>
  text(renderToStaticMarkup(<LengthFigure mm={mm} plusMinusMm={plusMinusMm} unit={unit} />));

describe('a length on the screen', () => {
  it.each([
    [14.4367, 0.1312, 'mm', '14.44 ± 0.13'],
    [120.2, 0.018, 'mm', '120.200 ± 0.018'],
    [25.4, 0.254, 'in', '1.000 ± 0.010'],
  ] as const)(
    'of %d ± %d in %s shows as many figures as its ± has, which is told by two of its own',
    (mm, spread, unit, shown) => {
      const [value, plusMinus] = figure(mm, spread, unit).split(' ± ');
      expect(Math.abs(Number(plusMinus) * (unit === 'in' ? 25.4 : 1) - spread)).toBeLessThan(0.05 * spread);
      expect(value!.split('.')[1]?.length).toBe(plusMinus!.split('.')[1]?.length);
      expect(`${value} ± ${plusMinus}`).toBe(shown);
    },
  );

  it('has no ± where it has none', () => {
    expect(figure(12, null, 'mm')).not.toContain('±');
  });

  it('is an angle in degrees with a sign that is read', () => {
    expect(degrees(-Math.PI / 6)).toMatch(/^[−-]30\.00°$/);
  });
});

describe('what is said on the slip', () => {
  it.each([
    ['wrong', 'alert'],
    ['doubt', 'status'],
    ['good', 'status'],
  ] as const)('is read out at once only where it is wrong: %s', (tone, role) => {
    expect(renderToStaticMarkup(<Notice tone={tone}>It is so.</Notice>)).toContain(`role="${role}"`);
  });
});

describe('one of a few', () => {
  it('is named, and says which is taken', () => {
    const options = [
      { value: 'a', text: 'shown' },
      { value: 'b', text: 'hidden' },
    ];
    const html = renderToStaticMarkup(<Choice label="Picture" value="b" options={options} onChange={() => {}} />);
    expect(html).toContain('aria-label="Picture"');
    const taken = html.split('<button').filter((part) => part.includes('aria-checked="true"'));
    expect(taken.map((part) => text(`<button${part}`))).toEqual(['hidden']);
  });
});
