import type { ExperimentView } from '@ruta/core/experiments';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Notice } from '../ui/Notice';
import { experimentsApi } from './api';

/** What can be done with a test as it stands: started, begun anew, ended, forgotten. */
export function TestActions({ test }: { test: ExperimentView }) {
  const [asking, setAsking] = useState<'start' | 'end' | 'remove' | null>(null);
  const close = () => setAsking(null);
  if (test.state === 'ended') return null;
  return (
    <>
      {test.state === 'planned' ? (
        <>
          <Button look="quiet" onClick={() => setAsking('remove')}>
            Forget this plan
          </Button>
          <Button look="main" disabled={test.hindrances.length > 0} onClick={() => setAsking('start')}>
            Start the test
          </Button>
        </>
      ) : (
        <>
          {test.hasChanges ? (
            <Button look="main" disabled={test.hindrances.length > 0} onClick={() => setAsking('start')}>
              Start a new round
            </Button>
          ) : null}
          <Button onClick={() => setAsking('end')}>End the test</Button>
        </>
      )}
      {asking === 'start' ? <StartDialog test={test} onClose={close} /> : null}
      {asking === 'end' ? <EndDialog test={test} onClose={close} /> : null}
      {asking === 'remove' ? <RemoveDialog test={test} onClose={close} /> : null}
    </>
  );
}

function StartDialog({ test, onClose }: { test: ExperimentView; onClose: () => void }) {
  const [start, { error, isLoading }] = experimentsApi.useStartExperimentMutation();
  const isAgain = test.state === 'running';
  const refused = error ? problemOf(error) : null;
  return (
    <Modal open onClose={onClose} title={isAgain ? 'Start a new round' : 'Start the test'}>
      <div className="grid gap-4">
        <p>
          {test.audience ? 'Of the visitors it is for' : 'From now on'}, {test.arms.map(({ name, share }) => `${share} % see “${name}”`).join(', ')}, at the
          same address. Each keeps what they first saw.
        </p>
        {isAgain ? <p>What was counted so far stays readable; the new round counts from zero.</p> : null}
        {test.warnings.map((warning) => (
          <Notice tone="care" key={warning}>
            {warning}
          </Notice>
        ))}
        <FormProblem>{refused ? [refused.title, ...refused.errors.map(({ message }) => message)].join(' ') : null}</FormProblem>
        <div className="flex gap-3">
          <Button
            look="main"
            disabled={isLoading}
            onClick={() =>
              start(test.id)
                .unwrap()
                .then(onClose)
                .catch(() => undefined)
            }
          >
            {isAgain ? 'Start the round' : 'Start it'}
          </Button>
          <Button onClick={onClose}>Not yet</Button>
        </div>
      </div>
    </Modal>
  );
}

function EndDialog({ test, onClose }: { test: ExperimentView; onClose: () => void }) {
  const [end, { error, isLoading }] = experimentsApi.useEndExperimentMutation();
  const [latest] = test.rounds;
  const decision = latest?.result.decision;
  const proved = decision?.kind === 'winner' ? latest?.arms.find(({ name }) => name === decision.arm) : undefined;
  const [put, setPut] = useState(proved?.id ?? latest?.arms[0]?.id ?? '');
  const isProved = proved !== undefined && put === proved.id;
  const isOriginal = put === latest?.arms[0]?.id;
  return (
    <Modal open onClose={onClose} title="End the test" description="From then on everybody sees the same, at the same address.">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          end({ id: test.id, put: isOriginal ? null : put })
            .unwrap()
            .then(onClose)
            .catch(() => undefined);
        }}
      >
        <fieldset className="grid gap-1">
          <legend className="font-semibold mb-1">What everybody sees afterwards</legend>
          {latest?.arms.map(({ id, name }) => (
            <label key={id} className="flex items-center gap-2.5 py-0.5 cursor-pointer">
              <input type="radio" name="put" className="size-4.5 accent-go" checked={put === id} onChange={() => setPut(id)} />
              <span className="font-semibold wrap-anywhere">{name}</span>
            </label>
          ))}
        </fieldset>
        {isProved || isOriginal ? null : (
          <Notice tone="care">Nothing is proved of this arm. You can put it in place; the history will say that it was your choice, not the test’s.</Notice>
        )}
        {isOriginal && !proved && decision?.kind === 'go-on' ? <p className="text-soft">Nothing is proved yet. Left alone, the test ends by itself.</p> : null}
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <div className="flex gap-3">
          <Button look="main" type="submit" disabled={isLoading}>
            End it
          </Button>
          <Button onClick={onClose}>Let it run</Button>
        </div>
      </form>
    </Modal>
  );
}

function RemoveDialog({ test, onClose }: { test: ExperimentView; onClose: () => void }) {
  const [remove, { error, isLoading }] = experimentsApi.useRemoveExperimentMutation();
  const navigate = useNavigate();
  return (
    <Modal open onClose={onClose} title="Forget this plan" description="The arms and what was changed in them are lost. The funnel itself stays as it is.">
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      <div className="flex gap-3">
        <Button
          look="danger"
          disabled={isLoading}
          onClick={() =>
            remove(test.id)
              .unwrap()
              .then(() => navigate('/experiments'))
              .catch(() => undefined)
          }
        >
          Forget it
        </Button>
        <Button onClick={onClose}>Keep it</Button>
      </div>
    </Modal>
  );
}
