import { useEffect, useRef, useState } from 'react';

/** What is drawn: points, with a shade or a word each if wanted. */
export interface Trace {
  x: number[];
  y: number[];
  mode: 'markers' | 'markers+text';
  name: string;
  text?: string[];
  /** Shown when the pointer stands on it. */
  hover?: string[];
  /** The larger the darker; as squares. */
  shade?: number[];
}

const INK = ['#2f6f62', '#8a5a1e', '#44515c', '#7a3b2e', '#6b6650'];

/** A chart, drawn by Plotly, which is loaded when the first one is wanted. */
export function Chart({
  label,
  traces,
  heightPx,
  across,
  down,
  bare = false,
}: {
  label: string;
  traces: Trace[];
  heightPx: number;
  across?: [number, number];
  down?: [number, number];
  /** Without axes: the frame is the picture's. */
  bare?: boolean;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const [fault, setFault] = useState(false);
  useEffect(() => {
    let here = true;
    const box = ref.current;
    void import('plotly.js-basic-dist-min')
      .then(({ default: plotly }) => {
        if (!here || !box) return;
        const ink = getComputedStyle(box).getPropertyValue('--ink').trim() || '#222';
        const axis = { visible: !bare, zeroline: true, gridcolor: 'rgba(128,128,128,0.25)', fixedrange: true };
        return plotly.react(
          box,
          traces.map((t, k) => ({
            type: 'scatter',
            x: t.x,
            y: t.y,
            mode: t.mode,
            name: t.name,
            text: t.text,
            hovertext: t.hover,
            hoverinfo: 'text',
            textfont: { color: '#ffffff', size: 10 },
            marker: t.shade
              ? {
                  symbol: 'square',
                  size: 30,
                  color: t.shade,
                  colorscale: [
                    [0, '#5e9186'],
                    [1, '#1d3833'],
                  ],
                }
              : { size: 4, color: INK[k % INK.length] },
          })),
          {
            height: heightPx,
            margin: bare ? { l: 0, r: 0, t: 4, b: 4 } : { l: 30, r: 4, t: 4, b: 4 },
            paper_bgcolor: 'rgba(0,0,0,0)',
            plot_bgcolor: 'rgba(0,0,0,0)',
            font: { family: 'inherit', color: ink, size: 11 },
            showlegend: traces.length > 1,
            legend: { orientation: 'h', y: -0.05 },
            xaxis: { ...axis, showticklabels: false, ...(across ? { range: across } : {}) },
            yaxis: { ...axis, ...(down ? { range: down } : {}) },
          },
          { displayModeBar: false, responsive: true },
        );
      })
      .catch(() => here && setFault(true));
    return () => {
      here = false;
    };
  }, [traces, heightPx, across, down, bare]);
  return fault ? (
    <p className="text-[12.5px] text-brick">The chart could not be drawn.</p>
  ) : (
    <div ref={ref} role="img" aria-label={label} className="w-full" style={{ minHeight: heightPx }} />
  );
}
