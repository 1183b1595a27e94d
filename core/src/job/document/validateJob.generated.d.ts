/** Compiled from `core/src/schema` by `npm run make:validators`. */
export declare const validateJob: {
  (document: unknown): boolean;
  errors?: { instancePath: string }[] | null;
};
