import fc from 'fast-check';

/** The same cases in every run, so that a run says of a change what it did; `LADDER_SEED=7 npm test` tries others. */
fc.configureGlobal({ seed: Number(process.env.LADDER_SEED ?? 1) });
