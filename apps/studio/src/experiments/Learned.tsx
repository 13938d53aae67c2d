import type { ExperimentView } from '@ruta/core/experiments';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem, TextArea } from '../ui/Field';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Panel } from '../ui/Page';
import { experimentsApi } from './api';

/** What was learned by a test, in the seller's own words: it is found again by them. */
export function Learned({ test }: { test: ExperimentView }) {
  const [keep, { error, isLoading, isSuccess }] = experimentsApi.useKeepLearnedMutation();
  const [typed, setTyped] = useState<string | null>(null);
  const learned = typed ?? test.learned;
  const isDirty = learned !== test.learned;
  return (
    <Panel title="What was learned">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep({ id: test.id, learned })
            .unwrap()
            .then(() => setTyped(null))
            .catch(() => undefined);
        }}
      >
        <TextArea
          label="In your own words"
          hint="For whoever asks next year why it is as it is."
          rows={3}
          maxLength={2000}
          value={learned}
          onChange={(event) => setTyped(event.target.value)}
        />
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <div className="flex items-center gap-3">
          <Button look="main" type="submit" disabled={isLoading || !isDirty}>
            Keep it
          </Button>
          {isSuccess && !isDirty ? (
            <span role="status" className="text-go font-semibold">
              Saved
            </span>
          ) : null}
        </div>
      </form>
      <LeaveGuard active={isDirty} />
    </Panel>
  );
}
