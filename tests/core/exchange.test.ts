import fc from 'fast-check';
import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { readBody, send } from '@/app/api/answer';
import { resultFingerprint } from '@/core/evidence';
import { decode, encode } from '@/core/exchange';
import { orderRun, performRun } from '@/core/project';
import { projectOf } from '../support/project';
import { randomProject } from './compiled/randomProject';

const number = fc.oneof(fc.double(), fc.constantFrom(Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NaN, -0, 0));
const key = fc.oneof(fc.string(), fc.constantFrom('$number', '$data', 'min')).filter((one) => one !== '__proto__' && one !== 'constructor');
const data = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 4 },
    number,
    fc.string(),
    fc.boolean(),
    fc.constant(null),
    fc.array(tie('any'), { maxLength: 4 }),
    fc.dictionary(key, tie('any'), { maxKeys: 4, noNullPrototype: true }),
  ),
})).any;

describe('what crosses a border', () => {
  it('arrives as it was sent, to the sign of a zero', () => {
    fc.assert(
      fc.property(data, (value) => {
        expect(decode(encode(value))).toStrictEqual(value);
      }),
      { numRuns: 3000 },
    );
  });

  it('is the JSON it always was where JSON can say it', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const plain = JSON.parse(JSON.stringify(value)) as unknown;
        if (!JSON.stringify(plain).includes('"$')) expect(encode(plain)).toBe(JSON.stringify(plain));
      }),
    );
    expect(encode({ a: Number.POSITIVE_INFINITY, b: [-0] })).toBe('{"a":{"$number":"Infinity"},"b":[{"$number":"-0"}]}');
  });

  it.each(['{"__proto__": 1}', '{"$number": "1e999"}', '{"$number": {}}', '{'])('%s is refused', (text) =>
    expect(() => decode(text)).toThrow(SyntaxError),
  );
});

/** A tank that is never below empty: MAX alone leaves the level without an upper bound. The inflow starts, held at rest, so that the level stands still. */
const files = (level: string) => ({
  'components/tank.yaml': `component: Tank\ninputs: { inflow: { type: LREAL, unit: m3/s } }\noutputs: { level: { type: LREAL, unit: m } }\nbehaviour: { kind: equations, states: { h: { start: 1 } }, derivatives: { h: inflow }, outputs: { level: "${level}" } }\n`,
  'loops/l.yaml':
    'loop: l\ncomponents: { tank: { use: Tank } }\ninputs: { inflow: { to: tank.inflow } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 5 s\n',
  'cases/c.yaml': 'case: c\nloop: l\n',
});

describe('a run ordered by one process and made by another', () => {
  it.each(['MAX(h, 0.0)', 'MIN(h, 9.0)', 'LIMIT(0.0, h, 9.0)'])(
    'clips nothing at a bound that is not there (%s), and has the same bytes',
    (level) => {
      const project = projectOf(files(level));
      expect(project.faults).toEqual([]);
      const order = orderRun(project, project.cases[0]!);
      const there = decode(encode(order)) as typeof order;
      expect(there.experiment.plan.limited).toEqual(order.experiment.plan.limited);
      expect(there.experiment.plan.limited).toHaveLength(1);
      const [here, made] = [performRun(order), performRun(there)];
      expect(made.result.clipped).toEqual([]);
      expect(made.result).toStrictEqual(here.result);
      expect(decode(encode(made.result))).toStrictEqual(made.result);
      expect(structuredClone(made.result)).toStrictEqual(made.result);
    },
  );

  it('is the same through every border: an answer of the server, a request, a thread', async () => {
    for (let seed = 1; seed <= 25; seed += 1) {
      const project = projectOf(randomProject(seed));
      const [test] = project.cases;
      if (!test) continue;
      const order = orderRun(project, test);
      const answered = decode(await send(order).text()) as typeof order;
      // Keys without a value are not there afterwards; everything else is what it was.
      expect(answered).toEqual(order);
      const { result } = performRun(order);
      expect(performRun(answered).result).toStrictEqual(result);
      expect(performRun(structuredClone(order)).result).toStrictEqual(result);
      expect(decode(await send(result).text())).toEqual(result);
    }
    const asked = { low: Number.NEGATIVE_INFINITY, zero: -0, none: Number.NaN };
    const request = new Request('http://localhost/', { method: 'POST', body: encode(asked) });
    expect(await readBody(request, { joi: Joi.object({ low: Joi.any(), zero: Joi.any(), none: Joi.any() }) })).toStrictEqual(asked);
  });

  it('has a fingerprint that tells what JSON cannot', () => {
    const { experiment } = projectOf(files('h')).cases[0]!;
    const started = (start: number): string => resultFingerprint({ ...experiment, overrides: [[0, start]] });
    expect(new Set([Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, -0, 0].map(started)).size).toBe(5);
  });
});
