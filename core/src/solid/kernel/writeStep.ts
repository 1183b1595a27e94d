import { Arena, type Kernel, type Shape } from './arena';

const FILE = 'part.step';

/** Text of a STEP file's strings: ' is doubled, and what is not plain ASCII is written by its number (ISO 10303-21). */
const stepText = (text: string): string =>
  [...text]
    .map((c) => {
      const code = c.codePointAt(0)!;
      if (c === "'") return "''";
      if (c === '\\') return '\\\\';
      if (code >= 32 && code < 127) return c;
      return code < 0x10000
        ? `\\X2\\${code.toString(16).toUpperCase().padStart(4, '0')}\\X0\\`
        : `\\X4\\${code.toString(16).toUpperCase().padStart(8, '0')}\\X0\\`;
    })
    .join('');

/**
 * A shape as a STEP file (ISO 10303-214): exact surfaces, millimetres, its name, and the date as 2026-03-01.
 *
 * `factor`: how many times larger it is written, about zero; `remark`: what else the file says. Out: the file's text; null where the kernel would not write it.
 */
export function writeStep(
  oc: Kernel,
  own: Shape,
  title: string,
  date: string,
  { factor = 1, remark = '' }: { factor?: number; remark?: string } = {},
): string | null {
  const arena = new Arena(oc);
  try {
    let shape = own;
    if (factor !== 1) {
      const scale = arena.keep(new oc.gp_Trsf());
      scale.SetScale(arena.point({ x: 0, y: 0, z: 0 }), factor);
      shape = arena.keep(arena.keep(new oc.BRepBuilderAPI_Transform(own, scale, true, false)).Shape());
    }
    const text = stepOf(arena, shape);
    return text === null ? null : withHead(text, stepText(title), date, remark && `; ${stepText(remark)}`);
  } finally {
    arena.free();
  }
}

/** What a shape is to whoever reads its file: outlines of faces worked out anew. Null where it cannot be read. */
export function readAgain(arena: Arena, shape: Shape): Shape | null {
  const { oc } = arena;
  const text = stepOf(arena, shape);
  if (text === null) return null;
  oc.FS.writeFile(FILE, text);
  try {
    const reader = arena.keep(new oc.STEPControl_Reader());
    if (reader.ReadFile(FILE) !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) return null;
    reader.TransferRoots(arena.keep(new oc.Message_ProgressRange()));
    return arena.keep(reader.OneShape());
  } finally {
    oc.FS.unlink(FILE);
  }
}

function stepOf(arena: Arena, shape: Shape): string | null {
  const { oc } = arena;
  oc.Interface_Static.SetCVal('write.step.schema', 'AP214IS');
  oc.Interface_Static.SetCVal('write.step.unit', 'MM');
  const writer = arena.keep(new oc.STEPControl_Writer());
  const mode = oc.STEPControl_StepModelType.STEPControl_AsIs;
  const done = oc.IFSelect_ReturnStatus.IFSelect_RetDone;
  if (writer.Transfer(shape, mode, true, arena.keep(new oc.Message_ProgressRange())) !== done) return null;
  if (writer.Write(FILE) !== done) return null;
  const text = oc.FS.readFile(FILE, { encoding: 'utf8' }) as string;
  oc.FS.unlink(FILE);
  return text;
}

/** The kernel signs with its own name and its clock: the file says what it is, and when it was made, instead. */
function withHead(text: string, title: string, date: string, remark: string): string {
  const head = `FILE_NAME('${title}','${date}T00:00:00',(''),(''),'Steady Moth','Steady Moth','');`;
  return text
    .replace(/FILE_NAME\([\s\S]*?\);/, () => head)
    .replace(/(FILE_DESCRIPTION\(\()'[^']*'/, (_, open: string) => `${open}'${title}, true to size in mm${remark}'`)
    .replace(/(= PRODUCT\()'[^']*',\s*'[^']*'/g, (_, open: string) => `${open}'${title}','${title}'`);
}
