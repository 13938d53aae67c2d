import { elementRecordOf, type PageElement } from '@ruta/core/elements';
import { inArm } from '@ruta/core/experiments';
import type { Section } from '@ruta/core/page';
import { FlaskConical } from 'lucide-react';
import { useNavigate } from 'react-router';
import { problemOf } from '../base/api';
import { planTestApi } from '../funnel/planTestApi';
import { useWorkspace } from '../funnel/useFunnel';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';

/** What the editor is to select once it has opened: sent along with the address. */
export interface OpenedAt {
  select: { kind: 'element' | 'section'; id: string };
}

const MOST_LETTERS = 80;

/** Begins a split test on what is selected: the page opens as the new arm has it, at the same place, ready to be changed. */
export function TryAnother({ stepId, stepName, part }: { stepId: string; stepName: string; part: { element: PageElement } | { section: Section } }) {
  const { funnel } = useWorkspace();
  const [plan, { error, isLoading }] = planTestApi.usePlanTestMutation();
  const navigate = useNavigate();
  // A test compares what is live; in an arm one is trying already.
  if (funnel.arm || funnel.version === 0) return null;
  const name = 'element' in part ? elementRecordOf(part.element.type).name : part.section.name;
  const opened: OpenedAt = { select: 'element' in part ? { kind: 'element', id: part.element.id } : { kind: 'section', id: part.section.id } };
  const begin = async () => {
    const made = await plan({ funnelId: funnel.id, stepId, name: `${name} of ${stepName}`.slice(0, MOST_LETTERS) })
      .unwrap()
      .catch(() => null);
    if (made) void navigate(`/funnels/${inArm(funnel.id, made.armId)}/page/${stepId}`, { state: opened });
  };
  return (
    <div className="border-t border-line mt-4 pt-4 grid gap-2 justify-items-start">
      <Button look="quiet" className="text-experiment" disabled={isLoading} onClick={() => void begin()}>
        <FlaskConical size={16} aria-hidden="true" /> Try another {name.toLowerCase()}
      </Button>
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
    </div>
  );
}
