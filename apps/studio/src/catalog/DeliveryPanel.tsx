import type { ProductFile, ProductUse } from '@ruta/core/catalog';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useFormContext } from 'react-hook-form';
import { problemOf } from '../base/api';
import { formatCount } from '../base/format';
import { useKeptState } from '../base/useKeptState';
import { useUpload } from '../files/useUpload';
import { Button, IconButton } from '../ui/Button';
import { FormProblem, SelectField, TextArea, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { UnderWay } from '../ui/UnderWay';
import { UploadButton } from '../ui/UploadButton';
import { useTask } from '../ui/useTask';
import { catalogApi } from './api';
import type { ProductDraft } from './productDraft';
import { useSheetFields } from './useSheetFields';

export type SheetFile = Pick<ProductFile, 'id' | 'name' | 'bytes' | 'only'>;

/** What buyers receive at once: files, a link, a course, licence keys, and for how long. */
export function DeliveryPanel(props: {
  productId: string | null;
  files: SheetFile[];
  onFiles: (change: (files: SheetFile[]) => SheetFile[]) => void;
  use: ProductUse | undefined;
}) {
  const field = useSheetFields();
  const { watch } = useFormContext<ProductDraft>();
  const [isBundle, keys] = watch(['isBundle', 'keys']);
  if (isBundle) return null;
  return (
    <Panel title="What do buyers receive?">
      <div className="grid gap-5">
        <Files files={props.files} onFiles={props.onFiles} />
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField label="Downloads of each file" hint="Empty: without limit." inputMode="numeric" {...field('maxDownloads')} />
          <TextField label="Days they can be fetched" hint="Empty: without end." inputMode="numeric" {...field('downloadDays')} />
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField label="Link for access" placeholder="https://" hint="Shown to buyers and mailed. Empty: none." {...field('linkUrl')} />
          <TextField label="Words on the link" hint="For example “Go to the chat”." maxLength={100} {...field('linkWords')} />
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField label="Course at Studyporch" hint="The course’s name there. Buyers are enrolled at once." maxLength={130} {...field('courseId')} />
          <TextField label="Address of the course" placeholder="https://" {...field('courseUrl')} />
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <SelectField label="Licence keys" {...field('keys')}>
            <option value="none">None</option>
            <option value="pattern">Made to a pattern, one for each unit sold</option>
            <option value="list">From a list you paste</option>
          </SelectField>
          {keys === 'pattern' ? (
            <TextField label="Pattern" hint="* is a letter or digit, # a digit: SKY-****-####-****" maxLength={80} {...field('keyPattern')} />
          ) : null}
          {keys === 'list' ? <TextField label="Warn when so many are left" inputMode="numeric" {...field('warnAt')} /> : null}
        </div>
        {keys === 'list' ? <Keys productId={props.productId} counts={props.use?.keys} /> : null}
      </div>
    </Panel>
  );
}

function Files({ files, onFiles }: { files: SheetFile[]; onFiles: (change: (files: SheetFile[]) => SheetFile[]) => void }) {
  const { watch } = useFormContext<ProductDraft>();
  const editions = watch('editions');
  const { busy, problemWords, send } = useUpload<Omit<SheetFile, 'only'>>('downloads', (added) =>
    onFiles((present) => [...present, ...added.map((file) => ({ ...file, only: null }))]),
  );
  const scopes = editions.flatMap((edition, index) => [
    ...(editions.length > 1 ? [{ id: edition.id, words: `Only with ${edition.name || `edition ${index + 1}`}` }] : []),
    ...(edition.prices.length > 1
      ? edition.prices.map((price, at) => ({
          id: price.id,
          words: `Only at the price ${[edition.name, price.name || `number ${at + 1}`].filter(Boolean).join(', ')}`,
        }))
      : []),
  ]);
  const swap = (index: number, other: number) => {
    onFiles((present) => {
      const next = [...present];
      [next[index], next[other]] = [next[other] as SheetFile, next[index] as SheetFile];
      return next;
    });
  };
  return (
    <div>
      {files.length === 0 ? <p className="text-soft mb-3">No files yet. Buyers get them at once, on the thank-you page and by mail.</p> : null}
      <ul className="mb-3">
        {files.map((file, index) => (
          <li key={file.id} className="flex items-center gap-2 border-b border-line py-2">
            <span className="flex-1 min-w-0 truncate">
              <span className="font-semibold">{file.name}</span> <span className="text-soft">{(file.bytes / 1024).toFixed(0)} KB</span>
            </span>
            {scopes.length > 0 ? (
              <select
                aria-label={`Who receives ${file.name}`}
                className="rounded-md border border-[#98a5a1] bg-white px-2 min-h-8.5 max-w-64"
                value={file.only ?? ''}
                onChange={(event) =>
                  onFiles((present) => present.map((other) => (other.id === file.id ? { ...other, only: event.target.value || null } : other)))
                }
              >
                <option value="">With every edition</option>
                {scopes.map((scope) => (
                  <option key={scope.id} value={scope.id}>
                    {scope.words}
                  </option>
                ))}
              </select>
            ) : null}
            <IconButton name={`Move ${file.name} up`} disabled={index === 0} onClick={() => swap(index, index - 1)}>
              <ArrowUp size={16} />
            </IconButton>
            <IconButton name={`Move ${file.name} down`} disabled={index === files.length - 1} onClick={() => swap(index, index + 1)}>
              <ArrowDown size={16} />
            </IconButton>
            <IconButton name={`Remove ${file.name}`} onClick={() => onFiles((present) => present.filter((other) => other.id !== file.id))}>
              <Trash2 size={16} />
            </IconButton>
          </li>
        ))}
      </ul>
      <FormProblem>{problemWords}</FormProblem>
      <UploadButton label="Add files" busy={busy} onFiles={send} several />
    </div>
  );
}

function Keys({ productId, counts }: { productId: string | null; counts: ProductUse['keys'] | undefined }) {
  const [text, setText] = useKeptState(`keys.${productId}`, '');
  const [add, { data, error, isLoading }] = catalogApi.useAddKeysMutation();
  const task = useTask();
  if (!productId) return <p className="text-soft">Save the product once, then paste its keys here.</p>;
  return (
    <div className="grid gap-2">
      <p>
        {counts ? (
          <>
            <strong>{formatCount(counts.waiting)}</strong> {counts.waiting === 1 ? 'key is' : 'keys are'} left, {formatCount(counts.given)} given.
          </>
        ) : null}
      </p>
      <TextArea
        label="Paste keys, one a line"
        rows={4}
        value={text}
        onChange={(event) => setText(event.target.value)}
        error={error ? { message: problemOf(error).errors[0]?.message ?? problemOf(error).title, of: error } : undefined}
      />
      <div className="flex items-center gap-3">
        <Button
          disabled={isLoading || text.trim() === ''}
          onClick={async () => {
            const done = await task.run((id) => add({ id: productId, keys: text, task: id }).unwrap(), false).catch(() => null);
            if (done) setText('');
          }}
        >
          Add these keys
        </Button>
        {isLoading && task.id ? <UnderWay task={task.id} /> : null}
        {data && !isLoading ? (
          <span role="status">
            {formatCount(data.added)} added{data.repeated > 0 ? `, ${formatCount(data.repeated)} were there already` : ''}.
          </span>
        ) : null}
      </div>
    </div>
  );
}
