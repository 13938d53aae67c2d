import { decodeText } from '@ruta/core/formats';
import { ORDER_WORDS, type SpendMapping, type SpendReport } from '@ruta/core/spend';
import { useRef, useState } from 'react';
import { problemOf } from '../base/api';
import { formatAmount, formatCount } from '../base/format';
import { Button } from '../ui/Button';
import { FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { UnderWay } from '../ui/UnderWay';
import { UploadButton } from '../ui/UploadButton';
import { useTask } from '../ui/useTask';
import { insightApi } from './api';
import { dayWords } from './periods';

const COLUMNS: Array<{ name: 'day' | 'campaign' | 'cost'; label: string }> = [
  { name: 'day', label: 'Day' },
  { name: 'campaign', label: 'Campaign' },
  { name: 'cost', label: 'Cost' },
];
const FURTHER: Array<{ name: 'source' | 'clicks' | 'currency'; label: string }> = [
  { name: 'source', label: 'Source' },
  { name: 'clicks', label: 'Clicks' },
  { name: 'currency', label: 'Currency' },
];

/** Brings a file of ad spend in: which column is which is guessed, or remembered, and can be chosen; then all of it, or nothing. */
export default function SpendDialog({ currency, onClose }: { currency: string; onClose: () => void }) {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [report, setReport] = useState<SpendReport | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(0);
  const [run, { isLoading }] = insightApi.useImportSpendMutation();
  const task = useTask();

  async function look(text: string, mapping: SpendMapping | undefined, apply = false) {
    setProblem(null);
    const mine = ++asked.current;
    try {
      const answer = await task.run((id) => run({ text, ...(mapping ? { mapping } : {}), apply, task: id }).unwrap(), !apply);
      // An older answer must not put back what was chosen or typed since.
      if (mine === asked.current) setReport(answer);
    } catch (error) {
      if (mine !== asked.current) return;
      setProblem(problemOf(error).errors[0]?.message ?? problemOf(error).title);
    }
  }
  async function choose([chosen]: File[]) {
    if (!chosen) return;
    const decoded = decodeText(new Uint8Array(await chosen.arrayBuffer()));
    setReport(null);
    if (!decoded.ok) {
      setFile(null);
      setProblem(decoded.message);
      return;
    }
    setFile({ name: chosen.name, text: decoded.text });
    await look(decoded.text, undefined);
  }
  const change = (changes: Partial<SpendMapping>) => {
    if (!file || !report) return;
    const mapping = { ...report.mapping, ...changes };
    setReport({ ...report, mapping });
    void look(file.text, mapping);
  };
  const fits = report !== null && report.problems.length === 0;
  return (
    <Modal open wide onClose={onClose} title="Bring in ad spend" description="A CSV file of your ad platform, with a day, a campaign and a cost on each line.">
      <div className="grid gap-4">
        <div className="flex items-center gap-3">
          <UploadButton label={file ? 'Choose another file' : 'Choose a file'} accept=".csv,.tsv,.txt,text/csv" busy={null} onFiles={choose} />
          {file ? <span className="text-soft">{file.name}</span> : null}
        </div>
        <FormProblem>{problem}</FormProblem>
        {isLoading && task.id ? <UnderWay task={task.id} /> : null}
        {report && !report.applied ? <Columns report={report} onChange={change} /> : null}
        {report ? (
          <div role="status" aria-busy={isLoading} className="grid gap-2">
            {report.applied ? (
              <p className="text-go font-semibold">
                Done: {formatCount(report.added)} added, {formatCount(report.changed)} changed, {formatCount(report.same)} as they were.
              </p>
            ) : fits ? (
              <p>
                <strong>{formatAmount(report.total, currency)}</strong> from {dayWords(report.from ?? '', true)} to {dayWords(report.to ?? '', true)}:{' '}
                {formatCount(report.added)} would be added, {formatCount(report.changed)} changed, {formatCount(report.same)} stay as they are
                {report.skipped > 0 ? `; ${formatCount(report.skipped)} lines without a day are left out` : ''}.
              </p>
            ) : (
              <>
                <p className="font-semibold text-stop">Nothing can be brought in yet.</p>
                <ul className="max-h-48 overflow-y-auto grid gap-1">
                  {report.problems.map(({ line, column, message }) => (
                    <li key={`${line} ${column} ${message}`}>
                      Line {line}
                      {column ? `, ${column}` : ''}: {message}
                    </li>
                  ))}
                </ul>
              </>
            )}
            {fits && report.isAmbiguous ? (
              <p className="font-semibold">
                The days can be read as day first and as month first. Look at the dates above, and change the order if they are wrong.
              </p>
            ) : null}
            {fits && report.unknownCampaigns.length > 0 ? (
              <p>
                Nobody has come from {report.unknownCampaigns.map((name) => `“${name}”`).join(', ')} yet. If they are called otherwise in your links, their cost
                stands beside no sale.
              </p>
            ) : null}
          </div>
        ) : null}
        <div className="flex gap-2">
          {report && !report.applied ? (
            <Button look="main" disabled={!fits || isLoading} onClick={() => file && void look(file.text, report.mapping, true)}>
              Bring it in
            </Button>
          ) : null}
          <Button onClick={onClose}>{report?.applied ? 'Close' : 'Leave it'}</Button>
        </div>
      </div>
    </Modal>
  );
}

/** Which column says what. */
function Columns({ report, onChange }: { report: SpendReport; onChange: (changes: Partial<SpendMapping>) => void }) {
  const { columns, mapping, isRemembered } = report;
  const options = columns.map((name) => (
    <option key={name} value={name}>
      {name}
    </option>
  ));
  return (
    <fieldset>
      <legend className="font-semibold mb-2">
        Which column is which? {isRemembered ? <span className="font-normal text-soft">As the last time with these columns.</span> : null}
      </legend>
      <div className="grid gap-3 sm:grid-cols-3">
        {COLUMNS.map(({ name, label }) => (
          <SelectField key={name} label={label} value={mapping[name]} onChange={({ target }) => onChange({ [name]: target.value })}>
            <option value="">Choose</option>
            {options}
          </SelectField>
        ))}
        {FURTHER.map(({ name, label }) => (
          <SelectField key={name} label={label} value={mapping[name] ?? ''} onChange={({ target }) => onChange({ [name]: target.value || null })}>
            <option value="">Not in the file</option>
            {options}
          </SelectField>
        ))}
        {mapping.source === null ? (
          <TextField
            label="Source of all of it"
            placeholder="skylark"
            maxLength={100}
            value={mapping.fixedSource}
            onChange={({ target }) => onChange({ fixedSource: target.value })}
          />
        ) : null}
        <SelectField
          label="Days are written"
          value={mapping.dateOrder}
          onChange={({ target }) => onChange({ dateOrder: target.value as SpendMapping['dateOrder'] })}
        >
          {Object.entries(ORDER_WORDS).map(([order, words]) => (
            <option key={order} value={order}>
              {words}
            </option>
          ))}
        </SelectField>
        <SelectField label="Decimals follow" value={mapping.decimal} onChange={({ target }) => onChange({ decimal: target.value as SpendMapping['decimal'] })}>
          <option value=".">a point: 1,234.50</option>
          <option value=",">a comma: 1.234,50</option>
        </SelectField>
      </div>
    </fieldset>
  );
}
