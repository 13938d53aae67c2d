import type { ReactNode } from 'react';
import { problemOf } from '../base/api';
import type { AfterUploads } from '../base/uploadsUnderWay';
import { Button } from './Button';
import { FormProblem } from './Field';

/** The end of a form: what stands in the way, the button that saves, and that it is saved. `children` stand beside the button. */
export function SaveBar(props: {
  label: string;
  busy: boolean;
  saved: boolean;
  error: unknown;
  /** Where the form has pictures or files: how saving stands to those on their way. */
  uploads?: AfterUploads;
  children?: ReactNode;
}) {
  const { uploads } = props;
  return (
    <>
      <FormProblem>{props.error ? problemOf(props.error).title : uploads?.problem}</FormProblem>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={props.busy || uploads?.isWaiting}>
          {props.label}
        </Button>
        {props.children}
        {uploads?.isWaiting ? (
          <span role="status" className="text-soft">
            Will be saved once the upload is complete
          </span>
        ) : null}
        {props.saved && !uploads?.isWaiting ? (
          <span role="status" className="text-go font-semibold">
            Saved
          </span>
        ) : null}
      </div>
    </>
  );
}
