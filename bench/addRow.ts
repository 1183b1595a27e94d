/** Takes one row of the table of figures; times have no seeds. */
export type AddRow = (what: string, seeds: string, scenes: string, measured: string, wanted: string) => void;
