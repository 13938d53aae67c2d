import type { ReactNode } from 'react';
import { problemOf } from '../base/api';
import { Button } from './Button';
import { FormProblem } from './Field';

/** The end of a form: what stands in the way, the button that saves, and that it is saved. `children` stand beside the button. */
export function SaveBar(props: { label: string; busy: boolean; saved: boolean; error: unknown; children?: ReactNode }) {
  return (
    <>
      <FormProblem>{props.error ? problemOf(props.error).title : null}</FormProblem>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={props.busy}>
          {props.label}
        </Button>
        {props.children}
        {props.saved ? (
          <span role="status" className="text-go font-semibold">
            Saved
          </span>
        ) : null}
      </div>
    </>
  );
}
