import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { orderRun, performRun, type RunOrder } from '@/core/project';
import { openBrowser } from '../support/browser';
import { alone } from '../support/project';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const plant = `
component: Wavy
outputs: { y: { type: LREAL } }
behaviour:
  kind: equations
  states: { a: { start: 1 }, b: { start: 0.5 } }
  derivatives:
    a: "SIN(time) * EXP(-a * a) + COS(b) - 0.1 * a"
    b: "(a * a + 1) ** 0.37 - b + LN(1 + b * b) * TAN(0.3)"
  outputs: { y: "a + ATAN(b) ** 3" }
`;

describe('one evaluator everywhere', () => {
  it.each(['{ method: runge-kutta-4, step: 10 ms }', '{ method: dormand-prince-54, step: 1 s, record_every: 20 ms }'])(
    'gives the same bytes in Node and in the browser: %s',
    async (solver) => {
      const project = alone(plant, 'Wavy', solver, '30 s');
      const order = orderRun(project, project.cases[0]!);
      const here = performRun(order).result;
      const page = await browser.newPage();
      await page.goto(`${appAddress()}/p/tarn-lock`);
      const there = await page.evaluate(
        (sent: RunOrder) =>
          new Promise<string>((resolve, reject) => {
            const worker = new Worker('/engine/engine.js', { type: 'module' });
            worker.onmessage = (event) => resolve(event.data.value?.result.traceHash ?? event.data.problem);
            worker.onerror = () => reject(new Error('no engine'));
            worker.postMessage({ id: 1, k: 'run', ask: { order: sent } });
          }),
        JSON.parse(JSON.stringify(order)) as RunOrder,
      );
      expect(here.error).toBeUndefined();
      expect(there).toBe(here.traceHash);
      await page.close();
    },
  );
});

describe('content-security policy', () => {
  it('no page may evaluate code; only the engine may', async () => {
    const page = await browser.newPage();
    await page.goto(`${appAddress()}/p/tarn-lock`);
    // The tool's own evaluation is exempt from the policy; a timer's callback is not.
    const problem = await page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          setTimeout(() => {
            try {
              resolve(String(new Function('return 1')()));
            } catch (error) {
              resolve((error as Error).name);
            }
          });
        }),
    );
    expect(problem).toBe('EvalError');
    for (const place of ['/', '/p/tarn-lock', '/p/tarn-lock/cases', '/p/tarn-lock/requirements', '/nowhere', '/p/nobody']) {
      const policy = (await fetch(`${appAddress()}${place}`)).headers.get('content-security-policy') ?? '';
      expect(policy).toContain("script-src 'self' 'nonce-");
      expect(policy).not.toContain('unsafe-eval');
    }
    expect((await fetch(`${appAddress()}/engine/engine.js`)).headers.get('content-security-policy')).toBe(
      "default-src 'none'; script-src 'self' 'unsafe-eval'",
    );
    await page.close();
  });
});

describe('wrong requests', () => {
  const post = (body: string, project = 'tarn-lock') =>
    fetch(`${appAddress()}/api/projects/${project}/campaigns`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
  it.each([
    ['no JSON', '{', 400],
    ['wrong kind', '{"cases": "x"}', 400],
    ['unknown key', '{"casses": []}', 400],
    ['unknown case', '{"cases": ["nobody"]}', 400],
    ['prototype', '{"__proto__": {"cases": []}}', 400],
    ['20 MB', `{"cases": ["${'x'.repeat(20_000_000)}"]}`, 413],
  ])('%s is refused with a sentence, and the server stays up', async (_, body, status) => {
    const response = await post(body);
    expect(response.status).toBe(status);
    expect(((await response.json()) as { error: string }).error).toMatch(/\w/);
    expect((await fetch(`${appAddress()}/p/tarn-lock`)).status).toBe(200);
  });
  it('unknown projects, runs and formats are told', async () => {
    expect((await post('{}', 'constructor')).status).toBe(404);
    for (const run of ['0', '999999', 'abc', '__proto__', '1e3']) expect((await fetch(`${appAddress()}/api/runs/${run}`)).status).toBe(404);
    expect((await fetch(`${appAddress()}/api/projects/tarn-lock/report?format=doc`)).status).toBe(400);
    expect((await fetch(`${appAddress()}/api/projects/tarn-lock/report?format=junit`)).headers.get('content-type')).toContain('application/xml');
  });
});
