import type { NearPlace, SourceKind, SourceLook, SourceSettings } from '@corvun/contract';
import { SourceInput } from '@corvun/contract/source-inputs';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { client } from '../../data/queries';
import { addSource, lookAt } from '../../data/sources';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { useSaid } from '../../state/said';
import { Choose } from './Choose';
import { ABOUT, KIND_NAMES, button, field, primary, quiet } from './common';
import { Preview } from './Preview';

interface Fields {
  kind: SourceKind;
  name: string;
  address: string;
  account: string;
  secret: string;
}

/** How a source is reached, and then what comes in from it. */
export function Reach({ kind, near }: { kind: SourceKind; near: NearPlace | undefined }): ReactNode {
  const about = ABOUT[kind];
  const navigate = useNavigate();
  const asked = useRef(0);
  const [look, setLook] = useState<SourceLook | null>(null);
  const [settings, setSettings] = useState<SourceSettings>({});
  const [problem, setProblem] = useState('');
  const heading = useRef<HTMLHeadingElement>(null);
  const chosen = look !== null;
  useEffect(() => {
    if (chosen) heading.current?.focus();
  }, [chosen]);
  /** While words are typed, only the answer to the last question counts. */
  const ask = async (fields: Fields, wanted?: SourceSettings) => {
    const turn = (asked.current += 1);
    const found = await lookAt({ ...fields, ...(wanted ? { settings: wanted } : {}) });
    if (turn !== asked.current) return;
    setLook(found);
    setSettings(wanted ?? found.settings);
    setProblem('');
  };
  const connect = async (fields: Fields) => {
    const source = await addSource({ ...fields, settings });
    await Promise.all(['sources', 'calendars', 'days'].map((key) => client.invalidateQueries({ queryKey: [key] })));
    useSaid.getState().say(`${source.name} is connected`, 'none');
    void navigate('/sources');
  };
  const { form, submit } = useRuled<Fields>(
    SourceInput,
    { kind, name: KIND_NAMES[kind], address: '', account: '', ...near, secret: near?.secret ?? '' },
    (fields) => (look ? connect(fields) : ask(fields)),
  );
  const sending = form.formState.isSubmitting;
  return (
    <form onSubmit={submit} noValidate className="space-y-3">
      <p>
        <Link className={quiet} to="/sources/add">
          Another kind
        </Link>
      </p>
      <h2 ref={heading} tabIndex={-1} className="font-head text-md font-semibold outline-none">
        {look ? `What comes in from ${form.getValues('name')}` : `Connect: ${KIND_NAMES[kind]}`}
      </h2>
      {look ? (
        <>
          <Choose
            kind={kind}
            look={look}
            settings={settings}
            set={(wanted) => {
              setSettings(wanted);
              const turn = asked.current + 1;
              ask(form.getValues(), wanted).catch((failed: unknown) => {
                if (turn === asked.current) setProblem(failed instanceof Error ? failed.message : 'It does not answer.');
              });
            }}
          />
          <Preview look={look} />
        </>
      ) : (
        <>
          <RuledField form={form} name="name" label="Name" className={field} />
          <RuledField form={form} name="address" label={about.address} placeholder={about.example} autoFocus className={field} />
          {about.account && <RuledField form={form} name="account" label="User name" className={field} />}
          {about.secret && (
            <RuledField
              form={form}
              name="secret"
              label={about.secret}
              type="password"
              hint="Kept encrypted on this machine, never shown again."
              className={field}
            />
          )}
        </>
      )}
      <FormProblem form={form} />
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
      <div className="flex gap-2">
        <button type="submit" className={primary} disabled={sending}>
          {look ? (sending ? 'Connecting …' : 'Connect and bring it in') : sending ? 'Asking …' : 'See what would come in'}
        </button>
        {look && (
          <button type="button" className={button} onClick={() => setLook(null)}>
            Back
          </button>
        )}
      </div>
    </form>
  );
}
