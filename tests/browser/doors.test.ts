import { readdir, readFile } from 'node:fs/promises';
import http from 'node:http';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { appAddress } from '../support/stack';

interface Answer {
  readonly status: number;
  readonly body: string;
}

/** A request as any program can send it, whatever a browser would forbid. */
function send(method: string, address: string, headers: Record<string, string> = {}, body?: string | Buffer): Promise<Answer> {
  const { hostname, port } = new URL(appAddress());
  return new Promise((resolve, reject) => {
    const length: Record<string, string> = body === undefined ? {} : { 'content-length': String(Buffer.byteLength(body)) };
    const request = http.request({ hostname, port, path: address, method, headers: { ...length, ...headers } }, (response) => {
      const parts: Buffer[] = [];
      // Of a stream of events the beginning is enough.
      response.on('data', (part: Buffer) => {
        parts.push(part);
        if (response.headers['content-type'] === 'text/event-stream') response.destroy();
      });
      response.on('close', () => resolve({ status: response.statusCode ?? 0, body: Buffer.concat(parts).toString() }));
    });
    request.on('error', reject);
    request.end(body);
  });
}

interface Route {
  readonly method: string;
  readonly address: string;
}

/** Every handler of every route, as the source has them. */
async function routes(): Promise<Route[]> {
  const files = (await readdir('src/app', { recursive: true })).filter((file) => path.basename(file) === 'route.ts');
  const found = await Promise.all(
    files.map(async (file) => {
      const text = await readFile(path.join('src/app', file), 'utf8');
      const address = `/${path.dirname(file)}`.replace('[project]', 'tarn-lock').replace(/\[\w+\]/g, '999999');
      return [...text.matchAll(/^export (?:async )?(?:function|const) (GET|POST|PUT|PATCH|DELETE|HEAD|OPTIONS)\b/gm)].map(([, method]) => ({
        method: method as string,
        address,
      }));
    }),
  );
  return found.flat();
}

const host = new URL(appAddress()).host;
const json = { 'content-type': 'application/json' };

describe('the doors', () => {
  it('of every route are shut to other names, other sites and bodies a form can send', async () => {
    const all = await routes();
    expect(all.length).toBeGreaterThan(10);
    for (const { method, address } of all) {
      const told = `${method} ${address}`;
      const status = async (headers: Record<string, string>, body?: string) => [told, (await send(method, address, headers, body)).status];
      expect(await status({ host: 'evil.example' })).toEqual([told, 421]);
      expect(await status({ host: 'evil.example:3000', origin: 'http://evil.example:3000' })).toEqual([told, 421]);
      expect(await status({ host, origin: 'http://evil.example' })).toEqual([told, 403]);
      expect(await status({ host, origin: 'null' })).toEqual([told, 403]);
      expect(await status({ host, 'sec-fetch-site': 'cross-site' })).toEqual([told, 403]);
      expect(await status({ host, 'sec-fetch-site': 'same-site' })).toEqual([told, 403]);
      if (method === 'GET') continue;
      for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x'])
        expect(await status({ host, 'content-type': type }, '{}')).toEqual([told, 415]);
    }
  });

  it('open to the pages of this server and to programs, under each of its names', async () => {
    const port = host.split(':')[1];
    for (const name of ['127.0.0.1', 'localhost', '[::1]'])
      expect((await send('GET', '/api/projects/tarn-lock/requirements?as=csv', { host: `${name}:${port}` })).status).toBe(200);
    const own = { host, origin: `http://${host}`, 'sec-fetch-site': 'same-origin', ...json };
    expect((await send('POST', '/api/projects/nobody/campaigns', own, '{}')).status).toBe(404);
    expect((await send('POST', '/api/projects/nobody/campaigns', { host, ...json }, '{}')).status).toBe(404);
    // A link on another site leads here, as links do.
    expect((await send('GET', '/p/tarn-lock', { host, 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate' })).status).toBe(200);
    expect((await send('GET', '/p/tarn-lock', { host: 'evil.example' })).status).toBe(421);
  });

  it('take what they say they take, and say what they do not take', async () => {
    const address = '/api/projects/nobody/revisions';
    const order = (text: string): string => JSON.stringify({ base: 1, files: [{ path: 'project.yaml', text }] });
    // 15 MB arrives whole: the sentence is about the project, not about the request.
    const large = JSON.stringify({
      base: 1,
      files: Array.from({ length: 8 }, (_, i) => ({ path: `cases/c${i}.yaml`, text: 'x'.repeat(1_900_000) })),
    });
    expect(await send('POST', address, { host, ...json }, large)).toMatchObject({ status: 404, body: expect.stringContaining('no such project') });
    expect(await send('POST', address, { host, ...json }, 'x'.repeat(21_000_000))).toMatchObject({
      status: 413,
      body: expect.stringContaining('20 MB'),
    });
    for (const [text, character] of [
      ['a\0b', 'U+0000'],
      ['\uFFFE', 'U+FFFE'],
    ] as const)
      expect(await send('POST', address, { host, ...json }, order(text))).toMatchObject({ status: 400, body: expect.stringContaining(character) });
    expect(await send('POST', address, { host, ...json }, '{"base":1,"files":[{"path":"project.yaml","text":"\\ud800"}]}')).toMatchObject({
      status: 400,
      body: expect.stringContaining('files.0.text'),
    });
    expect((await send('POST', address, { host, ...json }, Buffer.from([0x7b, 0xff, 0x7d]))).status).toBe(400);
    for (const bad of ['/p/%E0%A4%A', '/p/%00', '/api/projects/tarn-lock/requirements/history?of=%00', '/api/projects/%ff/report'])
      expect([bad, (await send('GET', bad, { host })).status]).toEqual([bad, 400]);
  });
});

describe('two hundred pages at once', () => {
  it('are slower, and all come', async () => {
    const places = ['/p/tarn-lock', '/p/tarn-lock/cases', '/p/quay-crane-2', '/p/tarn-lock/requirements'];
    const answers = await Promise.all(Array.from({ length: 200 }, (_, index) => send('GET', places[index % places.length] as string, { host })));
    expect(answers.filter(({ status }) => status !== 200)).toEqual([]);
  });
});
