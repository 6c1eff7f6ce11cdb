import fc from 'fast-check';

// The same cases in every run, so that a red build is red again; INKWELL_SEED tries others.
fc.configureGlobal({ seed: Number(process.env['INKWELL_SEED'] ?? 20261124) });
