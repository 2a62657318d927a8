'use client';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState } from 'react';
import { takeInFiles } from './takenIn';
import { type TemplateKind, templates } from './templates';

export interface AddDocumentProps {
  readonly slug: string;
  /** Paths that are taken. */
  readonly taken: readonly string[];
  readonly add: (path: string, text: string) => void;
}

const kinds: readonly (readonly [TemplateKind, string])[] = [
  ['component', 'New component'],
  ['loop', 'New loop'],
  ['case', 'New case'],
];

/** Begins a document, or takes in files from the disk: Structured Text, SCXML, YAML, recordings. */
export function AddDocument({ slug, taken, add }: AddDocumentProps) {
  const file = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string>();
  const begin = (kind: TemplateKind): void => {
    const used = (name: string): boolean => taken.some((path) => path.toLowerCase() === `${kind}s/${name}.yaml`.toLowerCase());
    let count = 1;
    const named = (): string => `${kind}${count > 1 ? `_${count}` : ''}`;
    while (used(named())) count += 1;
    const title = kind === 'component' ? named().charAt(0).toUpperCase() + named().slice(1) : named();
    add(`${kind}s/${named()}.yaml`, templates[kind](title));
  };
  const takeIn = async (files: readonly File[]): Promise<void> => {
    const { documents, refused } = await takeInFiles(files);
    for (const { path, text } of documents) add(path, text);
    setProblem(
      refused.length > 0
        ? `${refused.join(', ')}: only .st, .scxml, .csv, .svg, the YAML documents of a project and .zip archives of one are read.`
        : undefined,
    );
  };
  return (
    <div className="px-5 py-3">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="act">Add …</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="start" sideOffset={4} className="z-10 border border-rule bg-sheet py-1">
            <DropdownMenu.Item
              className="cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-sheet"
              onSelect={() => file.current?.click()}
            >
              Files from disk
            </DropdownMenu.Item>
            {kinds.map(([kind, label]) => (
              <DropdownMenu.Item
                key={kind}
                className="cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-sheet"
                onSelect={() => begin(kind)}
              >
                {label}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Item
              asChild
              className="block cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-sheet"
            >
              <a href={`/api/projects/${slug}/archive`} download>
                Whole project as ZIP
              </a>
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <input
        ref={file}
        type="file"
        multiple
        accept=".st,.scxml,.csv,.svg,.yaml,.yml,.zip"
        className="hidden"
        aria-label="Files from disk"
        onChange={(event) => {
          if (event.target.files) void takeIn([...event.target.files]);
          event.target.value = '';
        }}
      />
      {problem && <p className="mt-2 text-[12.5px] text-fail">{problem}</p>}
    </div>
  );
}
