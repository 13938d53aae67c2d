import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Badge, Waiting } from '../ui/Page';
import { teamApi } from './api';
import { PasswordField } from './PasswordField';

/** Codes of an authenticator app at sign-in: whether they are asked for, and the way there and back. */
export function TwoFactorPanel() {
  const { data: state, error, refetch } = teamApi.useTwoFactorQuery();
  const [begin, { data: begun, isLoading, error: failed, reset }] = teamApi.useBeginTwoFactorMutation();
  const [codes, setCodes] = useState<string[] | null>(null);
  const [isEnding, setEnding] = useState(false);
  if (!state) return <Waiting error={error} retry={refetch} />;
  if (codes) return <RecoveryCodes codes={codes} onDone={() => setCodes(null)} />;
  if (begun && !state.isOn) {
    return (
      <TurnOn
        secret={begun.secret}
        picture={begun.picture}
        onDone={(made) => {
          setCodes(made);
          reset();
        }}
        onCancel={reset}
      />
    );
  }
  if (isEnding && state.isOn) return <TurnOff onDone={() => setEnding(false)} />;
  return (
    <div className="grid gap-3 justify-items-start">
      {state.isOn ? (
        <p>
          <Badge tone="go">On</Badge> Signing in asks for a code of your authenticator app. Recovery codes left: {state.recoveryCodesLeft}.
        </p>
      ) : (
        <p>With codes of an app on your phone, nobody gets in who has only found out your password.</p>
      )}
      <FormProblem>{failed ? problemOf(failed).title : null}</FormProblem>
      {state.isOn ? (
        <Button onClick={() => setEnding(true)}>Turn off, or move to another phone</Button>
      ) : (
        <Button look="main" disabled={isLoading} onClick={() => begin()}>
          Turn on
        </Button>
      )}
    </div>
  );
}

interface TurnOnProps {
  secret: string;
  picture: string;
  onDone: (recoveryCodes: string[]) => void;
  onCancel: () => void;
}

function TurnOn({ secret, picture, onDone, onCancel }: TurnOnProps) {
  const [turnOn, { isLoading, error }] = teamApi.useTurnTwoFactorOnMutation();
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const at = (name: string) => refusedAt(error, name);
  return (
    <form
      className="grid gap-4 max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        turnOn({ password, code })
          .unwrap()
          .then(({ recoveryCodes }) => onDone(recoveryCodes))
          .catch(() => undefined);
      }}
    >
      <p>Point an authenticator app at this picture, or type the secret into it.</p>
      <div className="flex flex-wrap items-center gap-4">
        <img src={picture} alt="QR code with the secret" width={168} height={168} className="border border-line" />
        <p className="font-mono wrap-anywhere max-w-[14rem]" data-secret>
          {secret.replace(/(.{4})/g, '$1 ').trim()}
        </p>
      </div>
      <TextField
        label="Code that the app shows"
        autoComplete="one-time-code"
        inputMode="numeric"
        required
        autoFocus
        error={at('code')}
        value={code}
        onChange={(event) => setCode(event.target.value)}
      />
      <PasswordField
        label="Your password"
        autoComplete="current-password"
        required
        error={at('password')}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <FormProblem>{refusedWhole(error)}</FormProblem>
      <div className="flex gap-3">
        <Button look="main" type="submit" disabled={isLoading}>
          Turn codes on
        </Button>
        <Button look="quiet" onClick={onCancel}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

function RecoveryCodes({ codes, onDone }: { codes: string[]; onDone: () => void }) {
  const [isCopied, setCopied] = useState(false);
  return (
    <div className="grid gap-3 justify-items-start">
      <p>
        <strong>Keep these recovery codes where you find them without your phone.</strong> Each opens your account once instead of the app. They are not shown
        again. Every other browser was signed out.
      </p>
      <ul className="grid grid-cols-2 gap-x-8 gap-y-1 font-mono rounded-md border border-line px-4 py-3" data-recovery>
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-3">
        <Button
          onClick={() =>
            navigator.clipboard.writeText(codes.join('\n')).then(
              () => setCopied(true),
              () => setCopied(false),
            )
          }
        >
          {isCopied ? 'Copied' : 'Copy them'}
        </Button>
        <a
          className="rounded-md border border-line px-4 py-2 font-semibold no-underline text-ink"
          download="ruta-recovery-codes.txt"
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(`${codes.join('\r\n')}\r\n`)}`}
        >
          Save as a file
        </a>
        <Button look="main" onClick={onDone}>
          I have kept them
        </Button>
      </div>
    </div>
  );
}

function TurnOff({ onDone }: { onDone: () => void }) {
  const [turnOff, { isLoading, error }] = teamApi.useTurnTwoFactorOffMutation();
  const [password, setPassword] = useState('');
  return (
    <form
      className="grid gap-4 max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        turnOff({ password })
          .unwrap()
          .then(onDone)
          .catch(() => undefined);
      }}
    >
      <p>Without codes your password alone opens the shop. To move to another phone, turn codes off here and on again with it.</p>
      <PasswordField
        label="Your password"
        autoComplete="current-password"
        required
        autoFocus
        error={refusedAt(error, 'password')}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <FormProblem>{refusedWhole(error)}</FormProblem>
      <div className="flex gap-3">
        <Button look="main" type="submit" disabled={isLoading}>
          Turn codes off
        </Button>
        <Button look="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
