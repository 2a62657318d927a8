import { stemmer } from 'stemmer';
import { remember } from '@/core/memory';

/** A pattern over whole tokens of a phrase. */
export function wholeWords(source: string): RegExp {
  return new RegExp(`(?<![^ ])(?:${source})(?![^ ])`);
}

/** The stem of a word (Porter 1980). */
export const stem = remember(stemmer);

/** Words that carry no content of their own. */
export const empty = new Set(
  (
    'a an the this that these those its it their there any each every all both either of in on at to by with from into onto as and or be is are was were been being has have had do does ' +
    'shall must will should can may then than also so such per for when while if during which who whose whenever only just least most more less ever always never not no than ' +
    'become becomes remain remains remained remaining stay stays stayed kept keep keeps held hold holds maintained go goes went get gets set sets begin begins begun beginning ' +
    'take takes taken place takes occur occurs made make least itself themselves fully still again state status value signal position level system controller unit control command condition mode'
  ).split(' '),
);

/** Words that are empty, but may belong to a name. */
export const weak = new Set(
  'state status value signal position level system controller unit control command condition mode set hold held kept position on off'.split(' '),
);

/** Participles and adjectives that say of a truth that it is so, for things whose own name says nothing. */
const affirming = new Set(
  (
    'on active activated activates activate true present lit energised energized applied applies apply pressed press presses turned turn turns pulled pushed held running runs run started starts start starting ' +
    'sound sounds sounded sounding ring rings ringing flash flashes flashing detected detects detect requested requests request received receives reported reports report shown show shows indicated ' +
    'engaged enabled enables enable issued given stands stand exists exist occurs occur raised raises raise triggered triggers happens acknowledged acknowledges commanded commands stored stores seen appears arises begins burns operates operating switched illuminated asked asks fitted visible declared'
  ).split(' '),
);

/** The same for the contrary. */
const denying = new Set(
  (
    'off inactive deactivated deactivates deactivate false absent cleared clears clear silent silenced released releases release stopped stops stop stopping disabled disables disable withdrawn extinguished dark lost out ' +
    'removed unlit ceases cease ended ends gone out dropped de-energised interrupted idle disappears vanishes retracted finished lifted'
  ).split(' '),
);

/** Pairs of words that exclude each other, by their stems. */
const contraries = pairs(
  'open close|open shut|open closed|opened closed|lock unlock|locked unlocked|release apply|released applied|release press|released pressed|released engaged|release engage|extend retract|out home|out retracted|extended home|extended retracted|' +
    'connect disconnect|connected disconnected|plugged disconnected|plugged unplugged|connected removed|plugged removed|connection disconnection|on off|enable disable|enabled disabled|run stop|running stopped|up down|raised lowered|present absent|present removed|engaged disengaged|clear occupied|clear stop|' +
    'clear enters|ok lost|ok fail|ok failed|healthy failed|fastened opened|fastened open|valid invalid|full empty|forward backward|lit dark|on out|held released|pressed released|pulled released|pushed released|down up|home extended|locked opened|lift apply|lifted applied|burns out|insulated earthed|drawn opened|in out|closed opened',
);

function pairs(text: string): ReadonlyMap<string, ReadonlySet<string>> {
  const table = new Map<string, Set<string>>();
  const put = (a: string, b: string): void => {
    const set = table.get(a) ?? new Set<string>();
    set.add(b);
    table.set(a, set);
  };
  for (const pair of text.split('|')) {
    const [a = '', b = ''] = pair.split(' ').map(stem);
    put(a, b);
    put(b, a);
  }
  return table;
}

/** Whether two words exclude each other. */
export function areContrary(a: string, b: string): boolean {
  return contraries.get(stem(a))?.has(stem(b)) ?? false;
}

/** Whether a word says how a thing is, rather than what it is. */
export function isPredicate(word: string): boolean {
  return affirming.has(word) || denying.has(word) || contraries.has(stem(word));
}

/** +1 for a word that affirms, −1 for one that denies, 0 for any other. */
export function tendency(word: string): -1 | 0 | 1 {
  return affirming.has(word) ? 1 : denying.has(word) ? -1 : 0;
}

/** Verbs and participles of things that happen, in contrast to things that are. */
export const happening = wholeWords(
  'exceeds|rises|rise|rising|falls|fall|drops|drop|becomes|become|enters|enter|entering|leaves|leave|left|leaving|reaches|reach|crosses|changes|change|opens|closes|starts|start|stops|begins|begin|fails|goes|turns|trips|' +
    '(?:is|are|gets|has been|have been|was|being|be) (?:pressed|requested|detected|raised|received|released|turned|opened|switched|set|lost|pulled|pushed|issued|triggered|activated|deactivated|interrupted|removed|plugged|unplugged|connected|disconnected|acknowledged|commanded|given|started|stopped|reported|seen|asked|cleared|stored|fastened|inserted|called|locked|unlocked|extended|retracted)|' +
    'acknowledges|detects|receives|requests|presses|releases|reports|asks|arrives|occurs|appears|disappears|happens|entry|exit|start|disconnection|connection|release|detection|activation|loss|failure|entering|leaving|starting|opening|closing|pressing|pressed|requested|detected|turned|opened|raised',
);
