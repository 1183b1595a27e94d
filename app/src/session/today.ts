/** The day as files have it, for instance 2026-03-01. */
export const today = (): string => new Date().toISOString().slice(0, 10);
