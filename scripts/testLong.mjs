// npm run test:long: the whole suite with everything that is cut short in npm test: all random plans against C, all random charts, all random pairs of criteria, 100,000 random traces for the monitor.
process.env.OVRAND_LONG = '1';
process.env.OVRAND_PAIRS ??= '100000';
await import('./test.mjs');
