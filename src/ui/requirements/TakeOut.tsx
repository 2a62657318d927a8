'use client';
import { DropdownMenu } from 'radix-ui';

const kinds = [
  ['xlsx', 'Workbook (.xlsx)'],
  ['csv', 'Table (.csv)'],
  ['md', 'Markdown'],
  ['reqif', 'ReqIF 1.2'],
] as const;

/** The requirements of the newest revision as a file. */
export function TakeOut({ slug }: { readonly slug: string }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="act">Take out …</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} className="z-10 border border-rule bg-sheet py-1">
          {kinds.map(([kind, name]) => (
            <DropdownMenu.Item
              key={kind}
              asChild
              className="block cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-sheet"
            >
              <a href={`/api/projects/${slug}/requirements?as=${kind}`} download>
                {name}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
