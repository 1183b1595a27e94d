/** Engraved figures as strokes in a cell 0.6 wide and 1 high, y up: what a rule's engraving cutter draws. */
const STROKES: Record<string, number[][]> = {
  '0': [ring(0.3, 0.5, 0.26, 0.46)],
  '1': [[0.14, 0.78, 0.34, 0.96, 0.34, 0.04]],
  '2': [[...bow(0.3, 0.7, 0.25, 0.26, 160, -40), 0.06, 0.04, 0.56, 0.04]],
  '3': [bow(0.28, 0.73, 0.23, 0.23, 150, -90), bow(0.28, 0.27, 0.26, 0.25, 90, -150)],
  '4': [[0.42, 0.04, 0.42, 0.96, 0.04, 0.3, 0.58, 0.3]],
  '5': [[0.52, 0.96, 0.14, 0.96, 0.1, 0.55, ...bow(0.3, 0.32, 0.25, 0.28, 125, -150)]],
  '6': [[0.46, 0.96, ...bow(0.34, 0.4, 0.26, 0.46, 110, 180)], ring(0.31, 0.3, 0.25, 0.27)],
  '7': [[0.06, 0.96, 0.54, 0.96, 0.22, 0.04]],
  '8': [ring(0.3, 0.73, 0.21, 0.22), ring(0.3, 0.27, 0.25, 0.25)],
  R: [[0.1, 0.04, 0.1, 0.96, 0.32, 0.96, ...bow(0.32, 0.72, 0.2, 0.24, 90, -90), 0.1, 0.48, 0.32, 0.48, 0.54, 0.04]],
  Ø: [ring(0.3, 0.5, 0.28, 0.36), [0.06, 0.06, 0.54, 0.94]],
  '9': [ring(0.29, 0.7, 0.25, 0.27), [0.14, 0.04, ...bow(0.26, 0.6, 0.27, 0.46, -70, 0)]],
};

/** Share of a figure's height that its stroke is wide. */
const STROKE = 0.13;
const ADVANCE = 0.72;

/** Whether (x, y) lies on the engraved text, centred on (0, 0), `height` tall, all mm. */
export function onText(text: string, height: number, x: number, y: number): boolean {
  const width = (text.length * ADVANCE - (ADVANCE - 0.6)) * height;
  const px = (x + width / 2) / height;
  const py = y / height + 0.5;
  if (py < -0.1 || py > 1.1 || px < -0.1 || px > width / height + 0.1) return false;
  for (let k = 0; k < text.length; k++) {
    const lx = px - k * ADVANCE;
    if (lx < -0.1 || lx > 0.7) continue;
    for (const line of STROKES[text[k]!] ?? []) if (nearPolyline(line, lx, py, STROKE / 2)) return true;
  }
  return false;
}

function nearPolyline(line: number[], x: number, y: number, reach: number): boolean {
  for (let k = 0; k + 3 < line.length; k += 2) {
    const dx = line[k + 2]! - line[k]!;
    const dy = line[k + 3]! - line[k + 1]!;
    const t = Math.min(1, Math.max(0, ((x - line[k]!) * dx + (y - line[k + 1]!) * dy) / (dx * dx + dy * dy)));
    if ((x - line[k]! - t * dx) ** 2 + (y - line[k + 1]! - t * dy) ** 2 < reach * reach) return true;
  }
  return false;
}

function ring(cx: number, cy: number, rx: number, ry: number): number[] {
  return bow(cx, cy, rx, ry, 0, 360);
}

function bow(cx: number, cy: number, rx: number, ry: number, fromDegrees: number, toDegrees: number): number[] {
  const points: number[] = [];
  for (let k = 0; k <= 14; k++) {
    const a = ((fromDegrees + ((toDegrees - fromDegrees) * k) / 14) * Math.PI) / 180;
    points.push(cx + rx * Math.cos(a), cy + ry * Math.sin(a));
  }
  return points;
}
