import { letSingleKeysWork, useSingleKeys } from '../base/shortcuts';
import { Check } from './Field';

/** Switches the shortcuts of a single key off and on, for this browser. */
export function SingleKeysField() {
  return (
    <Check
      label="Shortcuts with a single key"
      hint="Turn them off if you speak to your computer, or press keys by mistake. They never work where text is typed or selected for typing."
      checked={useSingleKeys()}
      onChange={(event) => letSingleKeysWork(event.target.checked)}
    />
  );
}
