/** What to see to before the shot, drawn: four small sketches, each with a few words under it. */
export function AdviceCard({ className = '' }: { className?: string }) {
  return (
    <figure className={className}>
      <ul className="grid grid-cols-4 gap-2">
        {SKETCHES.map(({ words, drawing }) => (
          <li key={words} className="text-center">
            <svg
              viewBox="0 0 60 48"
              aria-hidden
              className="w-full text-ink2"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.4"
              strokeLinejoin="round"
            >
              {drawing}
            </svg>
            <span className="block text-[11.5px] text-ink2 leading-tight">{words}</span>
          </li>
        ))}
      </ul>
      <figcaption className="sr-only">Before the shot</figcaption>
    </figure>
  );
}

const table = <path d="M4 42 H56" />;
const part = <path d="M20 42 V36 H40 V42" fill="var(--sheet)" />;

const SKETCHES = [
  {
    words: 'straight from above',
    drawing: (
      <>
        {table}
        {part}
        <path d="M24 4 H36 V12 H24 Z M27 12 L26 16 H34 L33 12" />
        <path d="M27 17 L12 41 M33 17 L48 41" strokeDasharray="2 2.4" strokeWidth="1" />
        <path d="M30 18 V34" stroke="var(--rust)" strokeWidth="1.6" />
      </>
    ),
  },
  {
    words: 'stand back, zoom in',
    drawing: (
      <>
        {table}
        {part}
        <path d="M4 8 V42 M4 8 H8 M4 25 H7 M4 42 H8" strokeWidth="1" />
        <path d="M25 2 H35 V9 H25 Z" />
        <path d="M28 10 L20 36 M32 10 L40 36" strokeDasharray="2 2.4" strokeWidth="1" />
        <path d="M48 34 V10 M45 14 L48 9 L51 14" stroke="var(--rust)" strokeWidth="1.6" />
      </>
    ),
  },
  {
    words: 'ruler as high as the face',
    drawing: (
      <>
        {table}
        <path d="M8 42 V30 H28 V42" fill="var(--sheet)" />
        <path d="M34 42 V33 H54 V42" strokeDasharray="2 2" strokeWidth="1" />
        <path d="M33 30 H55 V33 H33 Z" fill="var(--sheet)" />
        <path d="M2 30 H60" stroke="var(--rust)" strokeDasharray="3 2" strokeWidth="1.2" />
      </>
    ),
  },
  {
    words: 'light from the side',
    drawing: (
      <>
        {table}
        {part}
        <circle cx="10" cy="14" r="5" stroke="var(--rust)" />
        <path d="M16 18 L24 25 M17 13 L26 16 M12 21 L17 30" stroke="var(--rust)" strokeWidth="1.2" />
        <path d="M40 42 L52 42 L40 37 Z" fill="currentColor" strokeWidth="0.6" opacity="0.5" />
      </>
    ),
  },
];
