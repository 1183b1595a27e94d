import fc from 'fast-check';

/** Property tests draw the same at every run, so that a change is judged by itself; `SEED=7 npm test` draws others. */
fc.configureGlobal({ seed: Number(process.env.SEED ?? 1) });
