import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { teamApi } from './api';
import { Gate } from './Gate';

export function SignIn() {
  return (
    <Gate title="Sign in">
      <SignInForm />
    </Gate>
  );
}

export function SignInForm() {
  const [signIn, { error, isLoading }] = teamApi.useSignInMutation();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const problem = error ? problemOf(error) : null;
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void signIn({ email, password });
      }}
    >
      <FormProblem>{problem?.title}</FormProblem>
      <TextField label="E-mail" type="email" autoComplete="username" required value={email} onChange={(event) => setEmail(event.target.value)} />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Button look="main" type="submit" disabled={isLoading}>
        Sign in
      </Button>
    </form>
  );
}
