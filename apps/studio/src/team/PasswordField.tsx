import { type ComponentProps, useState } from 'react';
import { TextField } from '../ui/Field';

/** A password that can be looked at while it is typed. */
export function PasswordField(props: Omit<ComponentProps<typeof TextField>, 'type'>) {
  const [isShown, setShown] = useState(false);
  return (
    <div className="relative">
      <TextField {...props} type={isShown ? 'text' : 'password'} />
      <button
        type="button"
        className="absolute right-0 top-0 font-semibold text-info underline"
        aria-pressed={isShown}
        aria-label={`Show what is typed as ${props.label.toLowerCase()}`}
        onClick={() => setShown(!isShown)}
      >
        {isShown ? 'Hide' : 'Show'}
      </button>
    </div>
  );
}
