import { PasswordSchema } from '@ruta/core/team';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { teamApi } from './api';
import { Gate } from './Gate';
import { PasswordField } from './PasswordField';

/** Where the link leads that was sent to somebody who forgot their password. */
export function ResetPassword() {
  const [reset, { error, isLoading, isSuccess }] = teamApi.useResetMutation();
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<string | undefined>();
  const token = new URLSearchParams(location.search).get('token') ?? '';
  if (isSuccess) {
    return (
      <Gate title="Your password is new">
        <p className="mb-4">Every browser was signed out. Sign in with it now.</p>
        <Button look="main" onClick={() => location.assign('/')}>
          Sign in
        </Button>
      </Gate>
    );
  }
  return (
    <Gate title="Choose a new password">
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          const problem = PasswordSchema.safeParse(password).error?.issues[0]?.message;
          setWrong(problem);
          if (!problem) void reset({ token, password });
        }}
      >
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <PasswordField
          label="New password"
          hint="At least ten characters; a few words of your own are best."
          autoComplete="new-password"
          autoFocus
          error={wrong}
          value={password}
          onChange={(event) => {
            setPassword(event.target.value);
            setWrong(undefined);
          }}
        />
        <Button look="main" type="submit" disabled={isLoading}>
          Keep this password
        </Button>
      </form>
    </Gate>
  );
}
