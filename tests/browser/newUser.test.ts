import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const heater = `{period: 200 ms, about: Switches the burner between two limits.}
FUNCTION_BLOCK Burner
VAR_INPUT
  temperature : LREAL; {unit: Cel, about: measured}
  wanted : LREAL; {unit: Cel, about: set point}
END_VAR
VAR_OUTPUT
  heat : LREAL; {unit: kW, min: 0, max: 20, about: power of the burner}
END_VAR
IF temperature < wanted - 1.0 THEN heat := 20.0; ELSIF temperature > wanted + 1.0 THEN heat := 0.0; END_IF;
END_FUNCTION_BLOCK
`;

const daily = `<scxml xmlns="http://www.w3.org/2005/07/scxml" xmlns:ovrand="urn:ovrand:chart" version="1.0" datamodel="ecmascript" name="Daily" initial="night"
  ovrand:period="200 ms">
  <datamodel>
    <data id="wanted" expr="40" ovrand:unit="K" ovrand:min="0" ovrand:max="90"/>
  </datamodel>
  <state id="night"><onentry><assign location="wanted" expr="40"/></onentry><transition event="morning" target="day"/></state>
  <state id="day"><onentry><assign location="wanted" expr="60"/></onentry><transition event="evening" target="night"/></state>
</scxml>
`;

const boiler = `component: Boiler
about: Water that a burner warms and the room cools.
inputs: { heat: { type: LREAL, unit: kW } }
outputs: { temperature: { type: LREAL, unit: Cel, min: 0, max: 100 } }
behaviour:
  kind: equations
  states: { t: { start: 20, unit: Cel } }
  derivatives: { t: heat / 40.0 - (t - 20.0) / 300.0 }
  outputs: { temperature: t }
`;

/** Replaces the whole text in the editor. */
async function write(page: Page, text: string): Promise<void> {
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(text);
}

it('a new user takes in Structured Text and SCXML, wires them to a plant, fixes a unit clash, and runs', async () => {
  const files = { 'burner.st': heater, 'daily.scxml': daily, 'boiler.yaml': boiler };
  const { page, problems } = await openPage(browser);
  await page.goto(`${appAddress()}/p/autoclave-3/model`);
  await page.getByRole('button', { name: 'Add …' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: 'Files from disk' }).click();
  await (await chooser).setFiles(Object.entries(files).map(([name, text]) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })));
  for (const name of ['Burner', 'Daily', 'Boiler'])
    await page.getByRole('navigation', { name: 'Loops and components' }).getByText(name, { exact: true }).waitFor();

  // The chart is drawn as it was read.
  await page.getByRole('navigation', { name: 'Loops and components' }).getByText('Daily', { exact: true }).click();
  await page.getByRole('heading', { name: '2 states, 2 transitions' }).waitFor();

  // A loop of the three; the wires of equal names are found, completion gives the rest.
  await page.getByRole('button', { name: 'Add …' }).click();
  await page.getByRole('menuitem', { name: 'New loop' }).click();
  await page.getByText('loops/loop.yaml', { exact: true }).waitFor();
  await write(
    page,
    'loop: house\ncomponents:\n  daily: { use: Daily }\n  burner: { use: Burner }\n  boiler: { use: Boiler }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 600 s\n',
  );
  await page.getByRole('button', { name: 'Wire equal names' }).click();
  await page.getByText('from: burner.heat, to: boiler.heat').waitFor();
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\n  - { from: dai');
  await page.locator('.cm-tooltip-autocomplete').getByText('daily.wanted').click();
  await page.keyboard.type(', to: burner.wan');
  await page.locator('.cm-tooltip-autocomplete').getByText('burner.wanted').click();
  await page.getByText('daily.wanted is in K, but burner.wanted expects °C.').waitFor();
  expect(await page.getByRole('button', { name: 'Save' }).isDisabled()).toBe(true);

  // Fixed where it was made.
  await page.getByRole('navigation', { name: 'Loops and components' }).getByText('Daily', { exact: true }).click();
  await page.getByRole('heading', { name: '2 states, 2 transitions' }).waitFor();
  await write(page, daily.replace('ovrand:unit="K"', 'ovrand:unit="Cel"'));
  await page.getByText(/^4 drafts$/).waitFor();

  await page.getByRole('button', { name: 'Add …' }).click();
  await page.getByRole('menuitem', { name: 'New case' }).click();
  await page.getByText('cases/case.yaml', { exact: true }).waitFor();
  await write(page, 'case: A day\nloop: house\nscript:\n  - hold: 200 s\n  - send: daily.morning\n  - hold: 200 s\n  - send: daily.evening\n');
  await page.getByText(/^5 drafts$/).waitFor();
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByText('Saved as revision 2.').waitFor();

  await page.goto(`${appAddress()}/p/autoclave-3/cases`);
  await page.getByText('A day', { exact: true }).first().click();
  await page.getByText('send daily.morning').waitFor();
  await page.getByRole('button', { name: 'Run A day' }).click();
  await page.getByText(/Done: 1 run in/).waitFor();

  // The whole project goes out as an archive and comes back without a difference.
  const archive = await page.request.get(`${appAddress()}/api/projects/autoclave-3/archive`);
  expect(archive.headers()['content-type']).toBe('application/zip');
  await page.goto(`${appAddress()}/p/autoclave-3/model?at=component:Burner`);
  await page.getByRole('heading', { name: 'A routine of Structured Text' }).waitFor();
  await page.getByLabel('Files from disk').setInputFiles({ name: 'project.zip', mimeType: 'application/zip', buffer: await archive.body() });
  await page.getByText('as saved').waitFor();
  expect(await page.getByText(/draft/).count()).toBe(0);
  await page.getByLabel('Files from disk').setInputFiles({ name: 'photo.png', mimeType: 'image/png', buffer: Buffer.from('x') });
  await page.getByText('photo.png: only .st, .scxml, .csv').waitFor();
  expect(problems).toEqual([]);
  await page.close();
});

it('a changed part makes what rests on it out of date, and the ledger says which, with the way there', async () => {
  const { page, problems } = await openPage(browser);
  const home = `${appAddress()}/p/autoclave-3`;
  await page.goto(`${home}/model?at=component:Chamber`);
  await page.getByLabel('leak', { exact: true }).fill('0.0021');
  await page.getByText(/^1 draft$/).waitFor();
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByText(/Saved as revision/).waitFor();

  await page.goto(`${home}?at=AC-003`);
  const why = page.getByRole('complementary', { name: 'Why AC-003' });
  await why.getByText('Out of date since components/chamber.yaml changed.').waitFor();
  await why.getByRole('link', { name: 'components/chamber.yaml' }).click();
  await page.getByText('components/chamber.yaml', { exact: true }).waitFor();
  await page.getByLabel('leak', { exact: true }).waitFor();
  expect(problems).toEqual([]);
  await page.close();
});
