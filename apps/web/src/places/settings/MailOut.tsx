import type { Done, MailSecurity, MailWayInfo, Me } from '@corvun/contract';
import { MailWayInput } from '@corvun/contract/mail-way';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { get, post, put, remove, saysWrong } from '../../data/api';
import { client } from '../../data/queries';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { button, field, primary } from '../sources/common';

interface Fields {
  host: string;
  port: number;
  security: MailSecurity;
  user: string;
  secret: string;
}

const LINES: Record<MailSecurity, { name: string; port: number }> = {
  starttls: { name: 'STARTTLS', port: 587 },
  tls: { name: 'TLS from the start', port: 465 },
  none: { name: 'not encrypted, for a server in the house', port: 25 },
};
const SECURITY = Object.keys(LINES) as MailSecurity[];

/** How mail leaves: what is so, a test, and where it is set. */
export function MailOut({ me }: { me: Me }): ReactNode {
  const way = useQuery({ queryKey: ['mailWay'], queryFn: () => get('/settings/mail-way') });
  const [changing, setChanging] = useState(false);
  const [told, setTold] = useState<{ says: string; wrong: boolean } | null>(null);
  const tell = (doing: Promise<Done>) =>
    doing.then(
      ({ sentence }) => setTold({ says: sentence, wrong: false }),
      (problem: unknown) => setTold({ says: saysWrong(problem), wrong: true }),
    );
  const changed = () => Promise.all(['me', 'mailWay', 'outbox'].map((key) => client.invalidateQueries({ queryKey: [key] })));
  if (!way.data) return <p className="min-h-6 text-soft">{way.error ? way.error.message : ''}</p>;
  const { own, ofServer } = way.data;
  const asks = changing || (!own && !ofServer);
  return (
    <div className="max-w-[420px]">
      <p className={own || ofServer ? '' : 'text-brick'}>{saysWay(way.data)}</p>
      {asks ? (
        <WayForm
          own={own}
          me={me}
          leave={changing ? () => setChanging(false) : null}
          done={async (sentence) => {
            await changed();
            setChanging(false);
            setTold({ says: sentence, wrong: false });
          }}
        />
      ) : (
        <div className="mt-2 flex flex-wrap gap-2">
          <button type="button" className={button} onClick={() => void tell(post('/settings/test-mail', undefined))}>
            Send a test mail to {me.email}
          </button>
          <button type="button" className={button} onClick={() => setChanging(true)}>
            {own ? 'Change it' : 'Set another way'}
          </button>
          {own && (
            <button
              type="button"
              className={button}
              onClick={() => void tell(remove('/settings/mail-way').finally(() => void changed()))}
            >
              Take it away
            </button>
          )}
        </div>
      )}
      <p role={told?.wrong ? 'alert' : 'status'} className={`mt-2 min-h-5 text-xs ${told?.wrong ? 'text-brick' : 'text-soft'}`}>
        {told?.says}
      </p>
    </div>
  );
}

function saysWay({ own, ofServer }: MailWayInfo): string {
  if (own)
    return `Mail leaves by ${own.host}, port ${own.port}, ${LINES[own.security].name}${own.user ? `, as ${own.user}` : ''}.`;
  return ofServer
    ? 'Mail leaves by the way that this server has for everybody.'
    : 'Mail has no way out yet: nothing you write can be sent.';
}

interface WayFormProps {
  own: MailWayInfo['own'];
  me: Me;
  leave: (() => void) | null;
  done: (sentence: string) => Promise<void>;
}

function WayForm({ own, me, leave, done }: WayFormProps): ReactNode {
  const { form, submit } = useRuled<Fields>(
    MailWayInput,
    { host: '', port: LINES.starttls.port, security: 'starttls', user: me.email, ...own, secret: '' },
    async ({ host, port, security, user, secret }) => {
      const wanted = { host: host.trim(), port, security, user: user.trim() };
      const { sentence } = await put('/settings/mail-way', secret ? { ...wanted, secret } : wanted);
      await done(sentence);
    },
  );
  const security = useWatch({ control: form.control, name: 'security' });
  const { isSubmitting } = form.formState;
  return (
    <form aria-label="Mail out" className="mt-2 space-y-2" noValidate onSubmit={submit}>
      <RuledField
        form={form}
        name="host"
        label="Server that takes your mail"
        placeholder="mail.alderfen.example"
        className={field}
      />
      <div className="flex gap-3">
        <div className="flex-1">
          <label htmlFor="mail-security" className="block pb-[3px] text-xs text-soft">
            Line
          </label>
          <select
            id="mail-security"
            className={field}
            value={security}
            onChange={(event) => {
              const next = event.target.value as MailSecurity;
              form.setValue('security', next);
              if (SECURITY.some((one) => LINES[one].port === Number(form.getValues('port'))))
                form.setValue('port', LINES[next].port);
            }}
          >
            {SECURITY.map((one) => (
              <option key={one} value={one}>
                {LINES[one].name}
              </option>
            ))}
          </select>
        </div>
        <div className="w-24">
          <RuledField form={form} name="port" label="Port" type="number" className={field} />
        </div>
      </div>
      <RuledField form={form} name="user" label="User name" className={field} hint="Empty: it takes mail without one." />
      <RuledField
        form={form}
        name="secret"
        label="Password"
        type="password"
        autoComplete="new-password"
        className={field}
        hint={own?.hasSecret ? 'Left empty, the one that is kept stays.' : 'Kept encrypted on this machine, never shown again.'}
      />
      <FormProblem form={form} />
      <div className="flex gap-2">
        <button type="submit" className={primary} disabled={isSubmitting}>
          {isSubmitting ? 'Asking the server …' : 'Let mail leave by it'}
        </button>
        {leave && (
          <button type="button" className={button} onClick={leave}>
            Leave it
          </button>
        )}
      </div>
    </form>
  );
}
