import { autocompletion, type Completion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import type { Extension } from '@codemirror/state';
import type { ModelView } from '@/core/picture';
import { asJson } from '../../format/asJson';

/**
 * Offers what may be written at the cursor: keys and words of the language where the document allows them, and names of the model.
 * @param names those of now
 */
export function completion(path: string, names: () => ModelView['names']): Extension {
  const complete = async (context: CompletionContext): Promise<CompletionResult | null> => {
    const word = context.matchBefore(/[A-Za-z_][A-Za-z0-9_.]*/);
    if (!word && !context.explicit) return null;
    const words = await suggestions(path, context.state.doc.toString(), context.pos);
    const own = names().map(({ name, about }): Completion => ({ label: name, detail: about, type: 'variable' }));
    const ofLanguage = words.map((label): Completion => ({ label, type: 'keyword', boost: 1 }));
    return { from: word?.from ?? context.pos, options: [...ofLanguage, ...own], validFor: /^[A-Za-z0-9_.]*$/ };
  };
  return autocompletion({ override: [complete], icons: false });
}

/** What the language has at a place; nothing while the server does not answer, for names can be offered all the same. */
async function suggestions(path: string, text: string, offset: number): Promise<readonly string[]> {
  const response = await fetch('/api/suggestions', asJson({ path, text, offset })).catch(() => undefined);
  return response?.ok ? ((await response.json()) as readonly string[]) : [];
}
