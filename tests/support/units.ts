import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strToU8, zipSync } from 'fflate';

/** An archive in base64, as a project keeps it. @param entries texts or bytes by their path */
export function archiveOf(entries: Readonly<Record<string, string | Uint8Array>>): string {
  const packed = zipSync(Object.fromEntries(Object.entries(entries).map(([name, one]) => [name, typeof one === 'string' ? strToU8(one) : one])));
  return Buffer.from(packed).toString('base64');
}

/** A unit written by hand: its C compiled, put together with its description. @param source file of C */
export function unitByHand(source: string, library: string, description: string, more: Readonly<Record<string, string>> = {}): string {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'ovrand-unit-')), 'unit.so');
  execFileSync('cc', ['-std=gnu99', '-Wall', '-Wextra', '-Werror', '-O1', '-shared', '-fPIC', source, '-o', file, '-lm']);
  return archiveOf({ 'modelDescription.xml': description, [library]: readFileSync(file), ...more });
}

/** The description that goes with tests/outside/fmi/unit2.c. */
export const tankDescription = `<?xml version="1.0" encoding="UTF-8"?>
<fmiModelDescription fmiVersion="2.0" modelName="Hand tank" guid="{tank-by-hand}">
  <CoSimulation modelIdentifier="hand_tank" canHandleVariableCommunicationStepSize="true"/>
  <TypeDefinitions><SimpleType name="Height"><Real unit="m" min="0" max="10"/></SimpleType></TypeDefinitions>
  <DefaultExperiment stepSize="0.05"/>
  <ModelVariables>
    <ScalarVariable name="pump.inflow" valueReference="1" causality="input" description="what comes in"><Real unit="m3/s" start="0"/></ScalarVariable>
    <ScalarVariable name="tank.level" valueReference="2" causality="output" initial="calculated"><Real declaredType="Height"/></ScalarVariable>
    <ScalarVariable name="tank.area" valueReference="3" causality="parameter" variability="fixed" initial="exact"><Real unit="m2" start="2" min="0.1"/></ScalarVariable>
    <ScalarVariable name="steps[1]" valueReference="1" causality="output" variability="discrete"><Integer/></ScalarVariable>
    <ScalarVariable name="mode" valueReference="2" causality="output" variability="discrete"><Enumeration declaredType="Mode"/></ScalarVariable>
    <ScalarVariable name="trouble" valueReference="3" causality="parameter" variability="tunable"><Integer start="0"/></ScalarVariable>
    <ScalarVariable name="open" valueReference="1" causality="input" variability="discrete"><Boolean start="false"/></ScalarVariable>
    <ScalarVariable name="full" valueReference="2" causality="output" variability="discrete"><Boolean/></ScalarVariable>
    <ScalarVariable name="note" valueReference="1" causality="parameter" variability="fixed"><String start="none"/></ScalarVariable>
    <ScalarVariable name="inner" valueReference="9" causality="local"><Real/></ScalarVariable>
  </ModelVariables>
  <ModelStructure><Outputs><Unknown index="2"/><Unknown index="4"/><Unknown index="5"/><Unknown index="8"/></Outputs></ModelStructure>
</fmiModelDescription>`;

/** The description that goes with tests/outside/fmi/unit3.c. */
export const counterDescription = `<?xml version="1.0" encoding="UTF-8"?>
<fmiModelDescription fmiVersion="3.0" modelName="Hand counter" instantiationToken="counter-by-hand">
  <CoSimulation modelIdentifier="hand_counter"/>
  <DefaultExperiment stepSize="0.1"/>
  <ModelVariables>
    <Float64 name="time" valueReference="0" causality="independent" variability="continuous"/>
    <Float64 name="sum" valueReference="2" causality="output" variability="continuous"/>
    <Float32 name="fine" valueReference="3" causality="input" variability="continuous" start="0"/>
    <Int8 name="small" valueReference="4" causality="parameter" variability="fixed" start="0" min="-3" max="3"/>
    <UInt16 name="word" valueReference="5" causality="output"/>
    <Int64 name="big" valueReference="6" causality="output"/>
    <Enumeration name="mode" valueReference="7" causality="output" declaredType="Mode"/>
    <Boolean name="on" valueReference="8" causality="input" variability="discrete" start="false"/>
    <Boolean name="over" valueReference="9" causality="output"/>
    <Float64 name="field" valueReference="11" causality="output"><Dimension start="3"/></Float64>
  </ModelVariables>
  <ModelStructure><Output valueReference="2"/></ModelStructure>
</fmiModelDescription>`;
