import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/quay-crane-2/model`;

describe('the model', () => {
  it('opens inward from the loop, and back', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(home());
    await page.getByRole('heading', { name: '4 components, 8 wires' }).waitFor();
    // The trolley has a picture of the project, the law one that comes along.
    await page.locator('[data-slip="trolley"] image').waitFor();
    await page.locator('[data-slip="law"] svg path').waitFor();
    await page.getByRole('button', { name: 'Open law' }).click();
    await page.getByRole('heading', { name: '7 elements, 10 wires' }).waitFor();
    await page.getByText('0.3 · in').waitFor();
    expect(page.url()).toContain('at=component%3ASwayLaw');
    await page.getByRole('main').getByRole('button', { name: 'crane' }).click();
    await page.getByRole('heading', { name: '4 components, 8 wires' }).waitFor();
    await page.goto(`${appAddress()}/p/tarn-lock/model?at=component:LockSupervisor`);
    await page.getByRole('heading', { name: '31 states, 63 transitions' }).waitFor();
    await page.getByText('upper_gate ‖ at the same time').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('keeps the sizes that were given to it', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(home());
    const edge = page.getByRole('separator');
    const top = async (): Promise<number> => Math.round((await edge.boundingBox())?.y ?? 0);
    await page.getByText('No faults').waitFor();
    await expect
      .poll(async () => {
        await edge.focus();
        await page.keyboard.press('ArrowUp');
        return top();
      })
      .toBeLessThan(350);
    const left = await top();
    await page.waitForTimeout(500);
    await page.reload();
    await expect.poll(async () => Math.abs((await top()) - left)).toBeLessThan(4);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('shows a drawing as a whole, without face and text, and brings them back', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/model`);
    await page.getByText('No faults').waitFor();
    /** Whether a part of the drawing can be seen without scrolling. */
    const isSeen = async (name: string): Promise<boolean> => {
      const box = await page.getByRole('button', { name, exact: true }).boundingBox();
      return box !== null && box.y > 48 && box.y + box.height < 800 && box.x + box.width < 1280;
    };
    const chamber = 'Open chamber_sensor';
    const edge = async (): Promise<number> => (await page.getByRole('separator').boundingBox())?.y ?? 0;
    expect((await page.getByRole('button', { name: chamber }).boundingBox())?.y).toBeGreaterThan(await edge());
    await page.getByRole('button', { name: 'Whole drawing' }).click();
    await expect.poll(edge).toBeGreaterThan(780);
    await expect.poll(() => isSeen(chamber)).toBe(true);
    await page.reload();
    await expect.poll(() => isSeen(chamber)).toBe(true);
    await page.goto(`${appAddress()}/p/tarn-lock/model?at=component:LockSupervisor`);
    await page.getByText('alarms ‖ at the same time').waitFor();
    const lowest = async (): Promise<number> => {
      const boxes = await page.getByLabel(/^Region /).all();
      return Math.max(
        ...(await Promise.all(boxes.map(async (box) => ((await box.boundingBox())?.y ?? 0) + ((await box.boundingBox())?.height ?? 0)))),
      );
    };
    await expect.poll(lowest).toBeLessThan(800);
    await page.getByRole('button', { name: 'Face and text' }).click();
    await page.getByText('travel_limit', { exact: true }).first().waitFor();
    await expect.poll(edge).toBeLessThan(600);
    await expect.poll(lowest).toBeGreaterThan(1000);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('draws of a large network what is on the screen, and shows the part one looks for', async () => {
    const { page, problems } = await openPage(browser);
    const name = (index: number): string => `p${Math.floor(index / 10)}_${index % 10}`;
    const parts = Array.from(
      { length: 400 },
      (_, index) => `    ${name(index)}: { use: gain, inputs: { in: ${index < 10 ? 'in' : name(index - 10)} } }`,
    );
    const text = `component: Wide\ninputs: { in: { type: LREAL } }\noutputs: { out: { type: LREAL } }\nbehaviour:\n  kind: network\n  period: 1 s\n  parts:\n${parts.join('\n')}\n  outputs: { out: p39_0 }\n`;
    await page.goto(home());
    await page.getByText('No faults').waitFor();
    await page.getByLabel('Files from disk').setInputFiles({ name: 'wide.yaml', mimeType: 'text/yaml', buffer: Buffer.from(text) });
    await page.getByRole('navigation', { name: 'Loops and components' }).getByText('Wide', { exact: true }).click();
    await page.getByLabel('Drawing: 402 slips, 401 wires').waitFor();
    const drawn = page.locator('[data-slip]');
    await expect.poll(() => drawn.count()).toBeLessThan(300);
    expect(await page.getByRole('button', { name: 'Part p39_9' }).count()).toBe(0);
    const find = page.getByRole('searchbox', { name: 'Find a part' });
    await find.fill('p39_9');
    await find.press('Enter');
    await page.getByText('The only match.').waitFor();
    const box = await page.getByRole('button', { name: 'Part p39_9' }).boundingBox();
    expect(box && box.x > 200 && box.x < 1280 && box.y > 48 && box.y < 480).toBe(true);
    // What it leads to is on the page as well, and it is no longer where it was begun.
    await page.getByRole('button', { name: 'Part p38_9' }).waitFor();
    await expect.poll(() => page.getByRole('button', { name: 'Part p0_0' }).count()).toBe(0);
    await find.fill('9_1');
    for (const index of [1, 2]) {
      await find.press('Enter');
      await page.getByText(`${index} of 4; Enter shows the next.`).waitFor();
    }
    await find.fill('nowhere');
    await find.press('Enter');
    await page.getByText('No part has "nowhere" in its name.').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('renames in all documents, gathers parts of a network, and takes each back in one step', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/model?at=component:PaddleLaw`);
    await page.getByRole('heading', { name: '14 elements, 25 wires' }).waitFor();
    await page.locator('.cm-content').getByText('level_speed', { exact: true }).first().dblclick();
    await page.keyboard.press('F2');
    await page.getByLabel('level_speed becomes').fill('approach');
    await page.getByRole('button', { name: 'Rename everywhere' }).click();
    await page.getByText('PaddleLaw has a "approach" already.').waitFor();
    await page.getByLabel('level_speed becomes').fill('full_speed');
    await page.keyboard.press('Enter');
    await page.getByText('1 draft', { exact: true }).waitFor();
    await page.getByText('slower: { use: minimum, inputs: { a: creep, b: full_speed } }').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('as saved').waitFor();

    await page.getByRole('button', { name: 'Part rate' }).click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Part speed' }).focus();
    await page.keyboard.press('Space');
    await page.getByPlaceholder('its name').fill('ChamberSpeed');
    await page.getByRole('button', { name: 'Gather' }).click();
    await page.getByRole('button', { name: 'Open chamber_speed' }).waitFor();
    await page.getByText('2 drafts', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('as saved').waitFor();
    await page.evaluate(() => window.localStorage.clear());
    expect(problems).toEqual([]);
    await page.close();
  });

  it('goes to where a name is defined, by pointer and by key', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}?at=loop:crane`);
    await page.getByText('No faults').waitFor();
    const word = (text: string) => page.locator('.cm-line', { hasText: text }).first();
    await word('from: drive.accel').click({ modifiers: ['Control'], position: { x: 115, y: 8 } });
    await page.locator('.cm-activeLine', { hasText: 'drive: { use: DriveLoop }' }).waitFor();
    await page.keyboard.press('End');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('F12');
    await page.getByText('components/drive-loop.st', { exact: true }).waitFor();
    await page.locator('.cm-activeLine', { hasText: 'FUNCTION_BLOCK DriveLoop' }).waitFor();
    expect(page.url()).toContain('at=component%3ADriveLoop&line=');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('form and text follow each other; one history; values outside never reach the text', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}?at=component:Load`);
    const rope = page.getByLabel('rope', { exact: true });
    await rope.fill('99');
    await page.getByText('rope is at most 40 m.').waitFor();
    await page.getByText('as saved').waitFor();
    await rope.fill('21');
    await page.getByText('value: 21').waitFor();
    await page.getByText('1 draft', { exact: true }).waitFor();
    await page.reload();
    await page.getByText('value: 21').waitFor();
    await page.getByLabel('damping', { exact: true }).fill('0,5');
    await page.getByText('value: 0.5').waitFor();
    await page.getByRole('region', { name: 'Face' }).getByText('loss of the swing').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('value: 0.02').waitFor();
    await page.getByRole('button', { name: 'Redo' }).click();
    await page.getByText('value: 0.5').waitFor();
    await page.evaluate(() => window.localStorage.clear());
    expect(problems).toEqual([]);
    await page.close();
  });

  it('tells the faults of a component beside its face; each leads to its line, where the text was folded away as well', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}?at=component:Load`);
    const text = page.locator('.cm-content');
    await text.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('\nsurplus: 1');
    const fault = page.getByRole('region', { name: 'Face' }).getByRole('button', { name: /^components\/load\.yaml:\d+$/ });
    await fault.waitFor();
    await text.click();
    await page.keyboard.press('Control+Home');
    await page.locator('.cm-activeLine', { hasText: 'component: Load' }).waitFor();
    await fault.click();
    await page.locator('.cm-activeLine', { hasText: 'surplus' }).waitFor();
    const address = page.url();
    expect(address).toContain('line=');
    await page.goto(home());
    await page.getByRole('button', { name: 'Whole drawing' }).click();
    await page.getByRole('button', { name: 'Face and text' }).waitFor();
    await page.waitForTimeout(500);
    await page.goto(address);
    await page.locator('.cm-activeLine', { hasText: 'surplus' }).waitFor();
    await expect.poll(async () => ((await page.locator('.cm-activeLine').boundingBox())?.y ?? 800) < 780).toBe(true);
    await page.evaluate(() => window.localStorage.clear());
    expect(problems).toEqual([]);
    await page.close();
  });

  it('has a form for durations and switches, and limits of one side', async () => {
    const { page, problems } = await openPage(browser);
    const text =
      'component: Held\ninputs: { in: { type: BOOL } }\noutputs: { out: { type: BOOL } }\nparameters:\n  pause: { type: TIME, value: 2 s }\n  sure: { value: true }\n  share: { value: 5, min: 0, unit: "%" }\nbehaviour:\n  kind: routine\n  period: 1 s\n  body: |\n    VAR t : TON; END_VAR\n    t(IN := in, PT := pause);\n    out := t.Q AND sure AND share > 1.0;\n';
    await page.goto(home());
    await page.getByText('No faults').waitFor();
    await page.getByLabel('Files from disk').setInputFiles({ name: 'held.yaml', mimeType: 'text/yaml', buffer: Buffer.from(text) });
    await page.getByRole('navigation', { name: 'Loops and components' }).getByText('Held', { exact: true }).click();
    const pause = page.getByLabel('pause', { exact: true });
    await pause.fill('soon');
    await page.getByText('"soon" is not a duration. Write 5 s, or 80 ms.').waitFor();
    await page.getByText('value: 2 s').waitFor();
    await pause.fill('450 ms');
    await page.getByText('value: 450 ms').waitFor();
    await page.getByLabel('sure', { exact: true }).click();
    await page.getByText('value: false').waitFor();
    await page.getByText('from 0', { exact: true }).waitFor();
    expect(await page.getByRole('heading', { name: /fault/ }).count()).toBe(0);
    await page.evaluate(() => window.localStorage.clear());
    expect(problems).toEqual([]);
    await page.close();
  });

  it('tells a unit clash while one types, completes names, saves a revision, and refuses a stale one', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}?at=loop:crane`);
    const text = page.locator('.cm-content');
    await text.click();
    await page.keyboard.press('Control+End');
    // A wire of a speed to a place: the clash is told where it stands, in the same second.
    await page.getByText('trolley.position, to: law.position').click();
    await page.keyboard.press('Home');
    await page.keyboard.press('Shift+End');
    await page.keyboard.type('- { from: trolley.speed, to: law.position }');
    await page.getByText('trolley.speed is in m/s, but law.position expects m.').waitFor();
    await page.getByRole('heading', { name: /1 fault/ }).waitFor();
    expect(await page.getByRole('button', { name: 'Save' }).isDisabled()).toBe(true);
    await page.keyboard.press('Control+z');
    // On a slow machine the typing took several steps of the history.
    while (!(await page.getByText('as saved').isVisible())) await page.keyboard.press('Control+z');
    await page.getByText('No faults.').waitFor();

    await text.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('\n# spe');
    await page.keyboard.press('Control+Space');
    await page.locator('.cm-tooltip-autocomplete').getByText('trolley.speed').waitFor();
    await page.keyboard.press('Escape');
    // What the language has at this place, without what is there already, and the words of a value.
    await page.keyboard.type('\ntrusted: [{ bec');
    await page.locator('.cm-tooltip-autocomplete').getByText('because', { exact: true }).waitFor();
    await page.keyboard.press('Escape');
    // With the brackets that were closed by themselves.
    await page.keyboard.press('Home');
    await page.keyboard.press('Shift+End');
    await page.keyboard.press('Backspace');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Saved as revision 2.').waitFor();
    await page.getByText('revision 2', { exact: true }).waitFor();
    const answer = await page.evaluate(async () => {
      const response = await fetch('/api/projects/quay-crane-2/revisions', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ base: 1, files: [{ path: 'project.yaml', text: 'project: Quay crane 2\n' }] }),
      });
      return { status: response.status, error: ((await response.json()) as { error: string }).error };
    });
    expect(answer.status).toBe(409);
    expect(answer.error).toContain('somebody saved revision 2 in the meantime');
    expect(problems.filter((one) => !one.includes('409'))).toEqual([]);
    await page.close();
  });
});
