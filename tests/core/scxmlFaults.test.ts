import { describe, expect, it } from 'vitest';
import { readProject } from '@/core/documents';
import { Faults } from '@/core/fault';
import type { RawComponent } from '@/core/shapes';

function read(data: string): { faults: string[]; raw: RawComponent | undefined } {
  const faults = new Faults();
  const text = `<scxml xmlns="http://www.w3.org/2005/07/scxml" xmlns:ovrand="urn:ovrand:chart" version="1.0" datamodel="ecmascript" name="C" initial="a">
  <datamodel>
    ${data}
  </datamodel>
  <state id="a"/>
</scxml>`;
  const { components } = readProject(
    [
      { path: 'project.yaml', text: 'project: p\n' },
      { path: 'components/c.scxml', text },
    ],
    faults,
  );
  return { faults: faults.all().map(({ place, message }) => `${place.line}: ${message}`), raw: [...components.values()][0]?.raw };
}

describe('attributes of ours on <data>', () => {
  it('make ports with type, unit and limits', () => {
    const { faults, raw } = read(
      '<data id="level" expr="0" ovrand:port="input" ovrand:type="REAL" ovrand:unit="m" ovrand:min="-0.5" ovrand:max="4"/><data id="lit" expr="false" ovrand:port="output"/>',
    );
    expect(faults).toEqual([]);
    expect(raw?.inputs).toEqual({ level: { type: 'REAL', unit: 'm', min: -0.5, max: 4 } });
    expect(raw?.outputs).toEqual({ lit: { type: 'BOOL', start: false } });
  });

  // Words that objects of the language have by themselves, and texts that only look like types.
  it.each([
    ['ovrand:type="LREAL "', '3: There is no type "LREAL ".'],
    ['ovrand:type="constructor"', '3: There is no type "constructor".'],
    ['ovrand:port="constructor"', '3: "constructor" is not a kind of port.'],
    ['ovrand:port="__proto__"', '3: "__proto__" is not a kind of port.'],
    ['ovrand:min="low"', '3: "low" is not a number for min.'],
    ['ovrand:max=" "', '3: " " is not a number for max.'],
    ['ovrand:max="1e999"', '3: "1e999" is not a number for max.'],
  ])('%s is told with its place', (attribute, message) => {
    expect(read(`<data id="x" expr="0" ${attribute}/>`).faults).toEqual([message]);
    expect(Object.keys(Object.prototype)).toEqual([]);
  });

  it('a parameter without a value is told, not taken for one that has none', () => {
    expect(read('<data id="x" ovrand:port="parameter" ovrand:type="LREAL"/>').faults).toEqual(['3: The parameter "x" has no value.']);
  });

  it('are all told at once', () => {
    expect(read('<data id="x" expr="0" ovrand:type="FLOAT"/>\n<data id="y" expr="0" ovrand:min="low" ovrand:port="pin"/>').faults).toEqual([
      '3: There is no type "FLOAT".',
      '4: "low" is not a number for min.',
      '4: "pin" is not a kind of port.',
    ]);
  });
});
