'use client';
import { useState } from 'react';
import type { DeskMessage } from '@/core/desk';
import { Breakable } from '../../parts/Breakable';
import type { DeskLink } from '../session/DeskLink';

interface MessagesProps {
  readonly link: DeskLink;
  readonly messages: readonly DeskMessage[];
}

/** The messages that people may send, each a button; one that carries a value has a field for it. */
export function Messages({ link, messages }: MessagesProps) {
  return (
    <section aria-label="Messages" className="mt-4">
      <h2 className="mb-1 font-semibold text-[13px]">Messages</h2>
      <ul>
        {messages.map((message) => (
          <li key={message.name} className="mb-1.5" title={message.about}>
            <Message link={link} message={message} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Message({ link, message: { name, unit } }: { readonly link: DeskLink; readonly message: DeskMessage }) {
  const [typed, setTyped] = useState('0');
  const value = Number(typed.replace('−', '-').replace(',', '.'));
  const isNumber = typed.trim() !== '' && Number.isFinite(value);
  return (
    <div className="flex items-center gap-1.5">
      <button
        type="button"
        className="act min-w-0 flex-1 text-left"
        disabled={!isNumber}
        onClick={() => link.tell({ k: 'press', steps: [unit === undefined ? { send: name } : { send: name, value }] })}
      >
        <Breakable name={name} />
      </button>
      {unit !== undefined && (
        <>
          <input
            aria-label={`Value of ${name}`}
            aria-invalid={!isNumber}
            inputMode="decimal"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className={`figure w-16 rounded border bg-sheet px-1.5 py-1 text-right ${isNumber ? 'border-rule' : 'border-fail'}`}
          />
          <span className="text-[12px] text-soft">{unit}</span>
        </>
      )}
    </div>
  );
}
