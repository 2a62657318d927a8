import { type RequirementItem, splitId, withIds } from './requirementItem';

/**
 * Requirements from Markdown or plain text: headings are sections, every paragraph, list item or line with an id of its own is a requirement. Ids at the head of a line are
 * recognised; items without one get the next free number.
 */
export function readMarkdown(text: string, taken: readonly string[]): RequirementItem[] {
  const items: { id?: string; section: string; text: string }[] = [];
  let section = 'Requirements';
  let open = false;
  for (const line of text.replace(/\r\n?/g, '\n').split('\n')) {
    const heading = /^#{1,6}\s+(.*?)\s*#*$/.exec(line);
    const item = /^\s*(?:[-*+•]|\d+[.)])\s+(.*)$/.exec(line);
    if (heading) {
      section = heading[1] ?? section;
      open = false;
    } else if (/^\s*(?:[-=_*]{3,})?\s*$/.test(line)) {
      open = false;
    } else {
      const { id, text: prose } = splitId((item?.[1] ?? line).trim());
      const last = items.at(-1);
      // A line that goes on: the paragraph was broken to fit a page.
      if (open && !id && !item && last && !/[.!?]$/.test(last.text)) last.text = `${last.text} ${prose}`;
      else items.push({ ...(id ? { id } : {}), section, text: prose });
      open = true;
    }
  }
  return withIds(items, taken);
}

/** The same as Markdown: sections as headings, one paragraph a requirement. */
export function writeMarkdown(items: readonly RequirementItem[]): string {
  return items
    .map(
      ({ id, section, text }, index) => `${section === items[index - 1]?.section ? '' : `## ${section}\n\n`}**${id}** ${text.replace(/\s+/g, ' ')}\n`,
    )
    .join('\n');
}
