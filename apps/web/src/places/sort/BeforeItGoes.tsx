import type { IncomingFull, IncomingLine, Me } from '@corvun/contract';
import { count, reasonOf } from '@corvun/core';
import type { ReactNode } from 'react';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useDrafts } from './draft';
import { ExtraFields } from './ExtraFields';
import { proposalOf, type DecisionDraft, type Proposal } from './proposal';

interface Props {
  me: Me;
  line: IncomingLine;
  incoming: IncomingFull | undefined;
}

const NOTHING: DecisionDraft = {};

/** What else can be said of a task before it goes: everything it can carry, folded to one line until it is wanted. */
export function BeforeItGoes({ me, line, incoming }: Props): ReactNode {
  const draft = useDrafts((state) => state.drafts[line.id]) ?? NOTHING;
  const isOpen = useDrafts((state) => state.beforeItGoes === line.id);
  const { edit, openBeforeItGoes } = useDrafts.getState();
  const proposal = proposalOf(line, draft);
  const why = incoming ? reasonOf(incoming.text, incoming.facts, incoming.subject, proposal.title) : '';
  const summary = summaryOf(proposal, draft, incoming);
  return (
    <section aria-label="Before it goes" className="mb-3">
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => openBeforeItGoes(isOpen ? null : line.id)}
        className="flex h-7 w-full items-center gap-[10px] text-left hover:bg-card"
      >
        <span className="w-6 shrink-0">
          <Key>{keyName(KEYS.sort.beforeItGoes)}</Key>
        </span>
        <span className="shrink-0">Before it goes</span>
        <span className="ml-auto truncate text-xs text-soft">{summary || 'notes, steps, tags, repeat'}</span>
      </button>
      {isOpen && (
        <ExtraFields
          key={line.id}
          {...{ me, proposal, incoming }}
          draft={{ ...draft, notes: draft.notes ?? why }}
          put={(change) => edit(line.id, change)}
          close={() => openBeforeItGoes(null)}
        />
      )}
    </section>
  );
}

function summaryOf({ priority, tags }: Proposal, { notes, steps, keep, repeat }: DecisionDraft, incoming?: IncomingFull): string {
  const written = (steps ?? []).filter((step) => step.trim()).length;
  return [
    priority === 'normal' ? '' : `${priority} priority`,
    ...tags.map((tag) => `#${tag}`),
    notes?.trim() ? 'notes' : '',
    written ? count(written, 'step') : '',
    repeat ? repeat.words : '',
    keep && incoming ? `${keep.length} of ${count(incoming.attachmentList.length, 'file')}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
