import type { ImportReport as FullReport } from '@ruta/core/catalog';
import { decodeText, MOST_PROBLEMS } from '@ruta/core/formats';
import { type ReactNode, useState } from 'react';
import { problemOf } from '../base/api';
import { formatCount } from '../base/format';
import { Button } from './Button';
import { FormProblem } from './Field';
import { Modal } from './Modal';
import { UnderWay } from './UnderWay';
import { UploadButton } from './UploadButton';
import { useCards } from './useCards';
import { useTask } from './useTask';

/** What an import says of itself; some have less to say. */
export type ImportReport = Pick<FullReport, 'added' | 'changed' | 'problems' | 'applied'> & Partial<Pick<FullReport, 'same' | 'notes'>>;

const SHOWN_PROBLEMS = 200;

/** How many places do not fit; a reader that has seen enough stops counting. */
const placesOf = (count: number) =>
  count === 1 ? '1 place does' : count > MOST_PROBLEMS ? `At least ${MOST_PROBLEMS} places do` : `${formatCount(count)} places do`;

/** Brings a file in: first what would happen and what does not fit, line by line; then all of it, or nothing. */
export function ImportDialog(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  accept: string;
  columns: ReadonlyArray<{ name: string; says: string }>;
  more?: ReactNode;
  things: string;
  /** @param task under which it can be watched and stopped, if the server does it */
  run: (name: string, text: string, apply: boolean, task: string) => Promise<ImportReport>;
  /** What is done here in the browser has no progress to ask for. */
  isLocal?: boolean;
}) {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [report, setReport] = useState<ImportReport | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState<'looking' | 'importing' | null>(null);
  const task = useTask();
  const cards = useCards();

  async function run(chosen: { name: string; text: string }, apply: boolean) {
    setBusy(apply ? 'importing' : 'looking');
    setProblem(null);
    try {
      setReport(await task.run((id) => props.run(chosen.name, chosen.text, apply, id), !apply));
    } catch (error) {
      setProblem(problemOf(error).title);
    }
    setBusy(null);
  }
  async function choose([chosen]: File[]) {
    if (!chosen) return;
    setReport(null);
    const decoded = decodeText(new Uint8Array(await chosen.arrayBuffer()));
    if (!decoded.ok) {
      setFile(null);
      setProblem(decoded.message);
      return;
    }
    const next = { name: chosen.name, text: decoded.text };
    setFile(next);
    await run(next, false);
  }
  const close = () => {
    task.stopLooking();
    setFile(null);
    setReport(null);
    setProblem(null);
    props.onClose();
  };
  const fits = report && report.problems.length === 0;
  return (
    // While it is being imported there is Stop; what becomes of it is told here.
    <Modal
      open={props.open}
      {...(busy === 'importing' ? {} : { onClose: close })}
      title={props.title}
      description="Nothing is changed before you have seen what would happen."
      wide
    >
      <div className="grid gap-4">
        <div className="flex items-center gap-3">
          <UploadButton
            label={file ? 'Choose another file' : 'Choose a file'}
            accept={props.accept}
            busy={busy ? 'Choose another file' : null}
            onFiles={choose}
          />
          {file ? <span className="text-soft">{file.name}</span> : null}
        </div>
        <FormProblem>{problem}</FormProblem>
        {busy && task.id && !props.isLocal ? <UnderWay task={task.id} /> : null}
        {report && !busy ? (
          <div role="status" className="grid gap-2">
            {report.applied ? (
              <p className="text-go font-semibold">
                Done: {formatCount(report.added)} added, {formatCount(report.changed)} changed.
              </p>
            ) : fits ? (
              <p>
                <strong>{formatCount(report.added)}</strong> would be added, <strong>{formatCount(report.changed)}</strong> changed
                {report.same === undefined ? '' : `, ${formatCount(report.same)} stay as they are`}.
              </p>
            ) : (
              <>
                <p className="font-semibold text-stop">{placesOf(report.problems.length)} not fit. Nothing is imported until all do.</p>
                <div className="max-h-64 overflow-auto rounded-md border border-line">
                  <table {...cards.table} className="w-full">
                    <thead {...cards.group} className="sticky top-0 bg-white">
                      <tr {...cards.row} className="text-left text-soft">
                        <th scope="col" {...cards.header} className="px-3 py-1.5">
                          Line
                        </th>
                        <th scope="col" {...cards.header}>
                          Column
                        </th>
                        <th scope="col" {...cards.header}>
                          What is wrong
                        </th>
                      </tr>
                    </thead>
                    <tbody {...cards.group}>
                      {report.problems.slice(0, SHOWN_PROBLEMS).map((each) => (
                        <tr key={`${each.line} ${each.column} ${each.message}`} {...cards.row} className="border-t border-line align-top">
                          <td {...cards.cell('Line')} className="px-3 py-1.5 figures">
                            {each.line || '–'}
                          </td>
                          <td {...cards.cell('Column')} className="py-1.5 pr-3 font-mono text-[0.86rem]">
                            {each.column}
                          </td>
                          <td {...cards.cell('What is wrong')} className="py-1.5 pr-3">
                            {each.message}
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
                {report.problems.length > SHOWN_PROBLEMS ? <p className="text-soft">The first {SHOWN_PROBLEMS} are shown.</p> : null}
              </>
            )}
            {report.notes?.map((note) => (
              <p key={note} className="text-soft">
                {note}
              </p>
            ))}
          </div>
        ) : null}
        <div className="flex gap-3">
          {report?.applied ? (
            <Button look="main" onClick={close}>
              Close
            </Button>
          ) : (
            <Button look="main" disabled={!file || !fits || busy !== null || report.added + report.changed === 0} onClick={() => file && run(file, true)}>
              Import {report && fits ? `${formatCount(report.added + report.changed)} ${props.things}` : props.things}
            </Button>
          )}
        </div>
        <details>
          <summary className="font-semibold text-info cursor-pointer">Columns of the CSV file</summary>
          <dl className="mt-2 grid grid-cols-[11rem_minmax(0,1fr)] gap-x-4 gap-y-0.5">
            {props.columns.map(({ name, says }) => (
              <div key={name} className="contents">
                <dt className="font-mono text-[0.9rem]">{name}</dt>
                <dd className="text-soft">{says}</dd>
              </div>
            ))}
          </dl>
          {props.more}
        </details>
      </div>
    </Modal>
  );
}
