/** One record of a DXF text: what its group 0 says, and the groups that follow up to the next (DXF reference, "Group codes"). */
export interface DxfRecord {
  type: string;
  groups: readonly DxfGroup[];
}

interface DxfGroup {
  code: number;
  value: string;
}

/** What of a DXF document is read: its unit, the frozen layers, the blocks, and the entities. */
export interface DxfDocument {
  /** `$INSUNITS`, null where the file says none. */
  unitCode: number | null;
  frozen: ReadonlySet<string>;
  blocks: ReadonlyMap<string, DxfBlock>;
  entities: DxfEntity[];
}

interface DxfBlock {
  x: number;
  y: number;
  /** It stands for another file. */
  isReference: boolean;
  entities: DxfEntity[];
}

/** An entity and what belongs to it: the vertices of a polyline. */
export interface DxfEntity extends DxfRecord {
  parts: readonly DxfRecord[];
}

/** A frozen layer, and one frozen in new viewports (DXF reference, LAYER, group 70). */
const FROZEN = 1;
/** Blocks that are references to other files, also overlaid ones (BLOCK, group 70). */
const REFERENCE = 4 | 8;

/**
 * Splits a DXF text into its records. Every pair of lines is looked at once: nothing in a file can hold this up.
 * Null where the lines are not pairs of a code and a value.
 */
function readDxfRecords(text: string): DxfRecord[] | null {
  const lines = text.split(/\r\n|\r|\n/);
  const records: DxfRecord[] = [];
  let groups: DxfGroup[] = [];
  for (let k = 0; k + 1 < lines.length; k += 2) {
    const written = lines[k]!.trim();
    if (!/^-?\d{1,5}$/.test(written)) return null;
    const [code, value] = [Number(written), lines[k + 1]!.trim()];
    if (code === 0) {
      if (value === 'EOF') break;
      groups = [];
      records.push({ type: value, groups });
    } else groups.push({ code, value });
  }
  return records;
}

/** Sorts records into sections; what stands where it does not belong is passed over. Null for a text that is no DXF. */
export function readDxfDocument(text: string): DxfDocument | null {
  const records = readDxfRecords(text);
  if (!records?.some((r) => r.type === 'SECTION')) return null;
  const document = {
    unitCode: null as number | null,
    frozen: new Set<string>(),
    blocks: new Map<string, DxfBlock>(),
    entities: [] as DxfEntity[],
  };
  let section = '';
  let block: DxfBlock | null = null;
  for (let k = 0; k < records.length; k++) {
    const record = records[k]!;
    const { type } = record;
    if (type === 'SECTION') {
      section = textOf(record, 2) ?? '';
      block = null;
      if (section === 'HEADER') document.unitCode = unitOf(record);
    } else if (type === 'ENDSEC') section = '';
    else if (section === 'TABLES' && type === 'LAYER') {
      const name = textOf(record, 2);
      if (name !== null && ((numberOf(record, 70) ?? 0) & FROZEN) !== 0) document.frozen.add(name);
    } else if (section === 'BLOCKS' && type === 'BLOCK') {
      block = blockOf(record);
      const name = textOf(record, 2);
      if (name !== null) document.blocks.set(name, block);
    } else if (section === 'BLOCKS' && type === 'ENDBLK') block = null;
    else if (section === 'ENTITIES' || (section === 'BLOCKS' && block)) {
      const parts = type === 'POLYLINE' ? verticesAfter(records, k) : [];
      k += parts.length;
      (block ?? document).entities.push({ ...record, parts });
    }
  }
  return document;
}

/** The vertices that follow a polyline, up to whatever is none. */
function verticesAfter(records: readonly DxfRecord[], at: number): DxfRecord[] {
  let end = at + 1;
  while (records[end]?.type === 'VERTEX') end += 1;
  return records.slice(at + 1, end);
}

function blockOf(record: DxfRecord): DxfBlock {
  return {
    x: numberOf(record, 10) ?? 0,
    y: numberOf(record, 20) ?? 0,
    isReference: ((numberOf(record, 70) ?? 0) & REFERENCE) !== 0 || Boolean(textOf(record, 1)),
    entities: [],
  };
}

function unitOf({ groups }: DxfRecord): number | null {
  const at = groups.findIndex((g) => g.code === 9 && g.value === '$INSUNITS');
  const next = at < 0 ? undefined : groups[at + 1];
  return next?.code === 70 ? Number(next.value) : null;
}

/** The first value of a group code, null for none. */
export function textOf({ groups }: DxfRecord, code: number): string | null {
  return groups.find((g) => g.code === code)?.value ?? null;
}

/** As a number; null for none, and for one that is not finite. */
export function numberOf(record: DxfRecord, code: number): number | null {
  const text = textOf(record, code);
  const value = text === null || text === '' ? Number.NaN : Number(text);
  return Number.isFinite(value) ? value : null;
}

/** All values of a code in their order, as numbers; one that is none makes NaN. */
export function numbersOf({ groups }: DxfRecord, code: number): number[] {
  return groups.filter((g) => g.code === code).map((g) => (g.value === '' ? Number.NaN : Number(g.value)));
}
