import type { SourceInfo, SourceLook, SourceSettings } from '@corvun/contract';
import { SourceChange } from '@corvun/contract/source-inputs';
import { useEffect, useState, type ReactNode } from 'react';
import { lookAgain, saveSource } from '../../data/sources';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { Choose } from './Choose';
import { Preview } from './Preview';
import { button, field, primary } from './common';

/** Changes what a connected source brings in, where it is, and its password. */
export function ChangeSource({ source, close }: { source: SourceInfo; close: () => void }): ReactNode {
  const [settings, setSettings] = useState<SourceSettings>(source.settings);
  const [look, setLook] = useState<SourceLook | null>(null);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    let current = true;
    lookAgain(source.id, settings).then(
      (found) => {
        if (!current) return;
        setLook(found);
        setProblem('');
      },
      (failed: unknown) => current && setProblem(failed instanceof Error ? failed.message : 'It does not answer.'),
    );
    return () => {
      current = false;
    };
  }, [source.id, settings]);
  const { form, submit } = useRuled<{ name: string; secret: string }>(
    SourceChange,
    { name: source.name, secret: '' },
    async ({ name, secret }) => {
      const changed = { name, settings, version: source.version, ...(secret ? { secret } : {}) };
      await saveSource(source.id, changed, `${name} is changed and looked into again`);
      close();
    },
  );
  return (
    <form className="mt-4 ml-9 max-w-[620px] space-y-3 border-l-2 border-rule pl-4 max-md:ml-0" noValidate onSubmit={submit}>
      <RuledField form={form} name="name" label="Name" className={field} />
      {source.kind !== 'notes' && source.kind !== 'feed' && (
        <RuledField
          form={form}
          name="secret"
          label="New password or token (empty keeps the one it has)"
          type="password"
          className={field}
        />
      )}
      {look ? (
        <Choose kind={source.kind} look={look} settings={settings} set={setSettings} />
      ) : (
        !problem && <p className="text-soft">Asking {source.name} …</p>
      )}
      {problem && <p className="text-brick">{problem}</p>}
      {look && <Preview look={look} />}
      <FormProblem form={form} />
      <div className="flex gap-2">
        <button type="submit" className={primary}>
          Save and look again
        </button>
        <button type="button" className={button} onClick={close}>
          Leave as it is
        </button>
      </div>
    </form>
  );
}
