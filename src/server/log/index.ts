import pino from 'pino';

/** Structured log on the error output, one JSON object a line; OVRAND_LOG sets the level. */
export const log = pino({ base: null, level: process.env.OVRAND_LOG ?? 'info', timestamp: pino.stdTimeFunctions.isoTime }, pino.destination(2));
