import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Faults } from '@/core/fault';
import { readPicture } from '@/core/xml';
import { readFolder } from '@/server/folder';
import { projectOf } from '../support/project';

function clean(inside: string): { svg: string; told: string[] } {
  const faults = new Faults();
  const { svg } = readPicture(
    'scenes/a.svg',
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://www.w3.org/1999/xlink">${inside}</svg>`,
    faults,
  );
  return { svg: svg ?? '', told: [...faults.all(), ...faults.warnings()].map((one) => one.message) };
}

describe('a picture of a project, before any browser sees it', () => {
  it.each([
    ['<script>a()</script>', '<script>'],
    ['<g onload="a()"/>', 'onload'],
    ['<style>h1 { display: none }</style>', '<style>'],
    ['<rect style="position: fixed"/>', 'style'],
    ['<rect class="fixed inset-0"/>', 'class'],
    ['<foreignObject><iframe xmlns="http://www.w3.org/1999/xhtml" src="about:blank"/></foreignObject>', '<foreignObject>'],
    ['<image href="https://example.org/a.png"/>', '<image>'],
    ['<use href="#a"/>', '<use>'],
    ['<animate attributeName="x"/>', '<animate>'],
    ['<set attributeName="onload" to="a()"/>', '<set>'],
    ['<rect fill="url(https://example.org/a#b)"/>', 'fill'],
    ['<rect fill="URL( //example.org/a )"/>', 'fill'],
    ['<rect mask="javascript:a()"/>', 'mask'],
    ['<a href="javascript:a()"><rect id="kept"/></a>', 'href'],
  ])('%s is left out, and told', (inside, what) => {
    const { svg, told } = clean(inside);
    expect(svg).not.toMatch(/script|onload|style|class|iframe|image|use|animate|set|example|javascript|href/i);
    expect(told).toEqual([`Only shapes and words of a picture are shown; left out: ${what}.`]);
    expect(svg.includes('id="kept"')).toBe(inside.includes('kept'));
  });

  it('what it holds of shapes, words and paint stays, and prints the same again', () => {
    const inside =
      '<defs><linearGradient id="shade"><stop offset="1" stop-color="red"></stop></linearGradient></defs><g transform="scale(2)"><text x="1">a &#60; b</text><path d="M0 0" fill="url(#shade)"></path></g>';
    const { svg, told } = clean(inside);
    expect(told).toEqual([]);
    expect(svg).toBe(`<svg xmlns="http://www.w3.org/2000/svg">${inside}</svg>`);
    expect(clean(svg.slice(svg.indexOf('>') + 1, -'</svg>'.length)).svg).toBe(svg);
  });

  it('a foreign prefix does not bring its names in', () => {
    expect(clean('<x:script>a()</x:script><rect x:href="#a" x:onclick="a()"/>').svg).toBe(
      '<svg xmlns="http://www.w3.org/2000/svg"><rect></rect></svg>',
    );
  });

  it('one without the name space is one too, a text that is none is a fault', () => {
    const faults = new Faults();
    expect(readPicture('a.svg', '<svg><g/></svg>', faults).svg).toBe('<svg xmlns="http://www.w3.org/2000/svg"><g></g></svg>');
    expect(faults.all()).toEqual([]);
    for (const text of ['<p/>', '<svg', '<!DOCTYPE svg><svg/>']) expect(readPicture('a.svg', text, faults).svg).toBeUndefined();
    expect(faults.count).toBe(3);
  });

  it('the pictures of the demos lose nothing, and the hostile one of the tests all that is not drawn', async () => {
    for (const name of ['tarn-lock', 'quay-crane', 'autoclave']) {
      const { files } = await readFolder(`demo/${name}`);
      for (const { path, text } of files.filter((one) => one.path.endsWith('.svg'))) {
        const faults = new Faults();
        readPicture(path, text, faults);
        expect(faults.warnings(), path).toEqual([]);
      }
    }
    const hostile = readFileSync('tests/projects/tank/scenes/tank.svg', 'utf8');
    const project = projectOf({ 'scenes/tank.svg': hostile });
    expect(project.project.pictures.get('scenes/tank.svg')?.svg).not.toMatch(/hit|script|on(load|click)|iframe/);
    expect(project.project.pictures.get('scenes/tank.svg')?.ids).toEqual(['wall', 'water']);
  });
});
