import fc from 'fast-check';

// The same cases on every machine, so that a run says something about the change and not about its luck. To look for
// more: FC_SEED=… npx jest --selectProjects core
fc.configureGlobal({ seed: Number(process.env['FC_SEED'] ?? 20_261_123) });
