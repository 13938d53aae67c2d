import { PasswordChangeSchema } from '@ruta/core/team';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { SingleKeysField } from '../ui/SingleKeysField';
import { teamApi } from './api';
import { PasswordField } from './PasswordField';
import { TwoFactorPanel } from './TwoFactorPanel';

/** One's own account: the password, codes at sign-in, and where one is signed in. */
export function AccountPage() {
  const { data: session, error, refetch } = teamApi.useSessionQuery();
  const { data: shop } = shopApi.useShopQuery();
  if (!session?.user || !shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Your account" narrow>
      <p className="mb-4 text-soft wrap-anywhere">
        {session.user.name}, {session.user.email}
      </p>
      <Panel title="Password">
        <PasswordForm />
      </Panel>
      <Panel title="Two-factor codes">
        <TwoFactorPanel />
      </Panel>
      <Panel title="Keyboard">
        <SingleKeysField />
      </Panel>
      <Panel title="Where you are signed in">
        <Sessions timeZone={shop.settings.timeZone} />
      </Panel>
    </Page>
  );
}

function PasswordForm() {
  const [change, { isLoading, isSuccess, error }] = teamApi.useChangePasswordMutation();
  const [typed, setTyped] = useState({ current: '', password: '' });
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const at = (name: 'current' | 'password') => wrong[name] ?? refusedAt(error, name);
  const field = (name: 'current' | 'password') => ({
    value: typed[name],
    error: at(name),
    onChange: (event: { target: { value: string } }) => {
      setTyped({ ...typed, [name]: event.target.value });
      setWrong(({ [name]: _mended, ...others }) => others);
    },
  });
  return (
    <form
      noValidate
      className="grid gap-4 max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        const read = PasswordChangeSchema.safeParse(typed);
        if (!read.success) return setWrong(Object.fromEntries(read.error.issues.map(({ path, message }) => [String(path[0]), message])));
        change(read.data)
          .unwrap()
          .then(() => setTyped({ current: '', password: '' }))
          .catch(() => undefined);
      }}
    >
      <PasswordField label="Present password" autoComplete="current-password" {...field('current')} />
      <PasswordField
        label="New password"
        hint="At least ten characters; a few words of your own are best."
        autoComplete="new-password"
        {...field('password')}
      />
      <FormProblem>{refusedWhole(error)}</FormProblem>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={isLoading}>
          Change the password
        </Button>
        {isSuccess && typed.current === '' ? (
          <span role="status" className="text-go font-semibold">
            Changed. Every other browser was signed out.
          </span>
        ) : null}
      </div>
    </form>
  );
}

/** A browser by its own description, in the words that tell one from another. */
function browserWords(agent: string): string {
  const name = /Edg|OPR|Firefox|Chrome|Safari/.exec(agent)?.[0];
  const system = /Android|iPhone|iPad|Windows|Mac OS|Linux/.exec(agent)?.[0];
  if (!name && !system) return agent === '' ? 'An unknown browser' : agent.slice(0, 60);
  return [name ?? 'A browser', system ? `on ${system}` : ''].filter(Boolean).join(' ');
}

function Sessions({ timeZone }: { timeZone: string }) {
  const { data: sessions, error, refetch } = teamApi.useSignInsQuery();
  const [end, { error: failed }] = teamApi.useEndSignInMutation();
  if (!sessions) return <Waiting error={error} retry={refetch} />;
  return (
    <>
      <ul className="divide-y divide-line">
        {sessions.map(({ id, since, browser, isThis }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 py-2" data-sign-in={isThis ? 'this' : 'other'}>
            <span className="wrap-anywhere">{browserWords(browser)}</span>
            <span className="text-soft">{since === null ? '' : `since ${formatTime(since, timeZone)}`}</span>
            <span className="ml-auto">{isThis ? <Badge tone="way">This browser</Badge> : <Button onClick={() => end(id)}>Sign it out</Button>}</span>
          </li>
        ))}
      </ul>
      <FormProblem>{failed ? problemOf(failed).title : null}</FormProblem>
    </>
  );
}
