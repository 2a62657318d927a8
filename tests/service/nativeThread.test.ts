import { setTimeout } from 'node:timers/promises';
import { expect, it } from 'vitest';
import { NativeThread } from '@/bench/nativeThread';

// Without the wait for what it loads, koffi ends this process with "Error::ThrowAsJavaScriptException napi_throw" at some of these instants.
it('a thread that is ended while it loads native code takes nothing along', async () => {
  const code = `require('koffi'); require('node:worker_threads').parentPort.postMessage({ k: 'loaded' }); setInterval(() => undefined, 1000);`;
  for (let delay = 0; delay < 60; delay += 1) {
    const thread = new NativeThread(code, { eval: true });
    await setTimeout(delay);
    expect(await thread.terminate()).toBe(1);
  }
});

it('one that cannot load can be ended, too', async () => {
  const thread = new NativeThread(`require('no-such-module');`, { eval: true });
  const said = new Promise((resolve) => thread.once('error', resolve));
  expect(await thread.terminate()).toBe(1);
  await said;
});
