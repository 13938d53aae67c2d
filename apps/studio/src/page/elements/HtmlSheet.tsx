import { TextArea } from '../../ui/Field';
import { cleanHtml } from '../cleanHtml';
import type { SheetProps } from './sheet';

/** Whether something that was typed is not shown: script, frames, forms, and what would break out of its place. */
const isCut = (code: string): boolean => /<\s*(script|iframe|form|input|button|style|link|object|embed|svg)\b|\son[a-z]+\s*=|javascript:/i.test(code);

export function HtmlSheet({ element, change }: SheetProps<'html'>) {
  return (
    <>
      <TextArea
        label="HTML"
        rows={12}
        spellCheck={false}
        className="w-full rounded-md border bg-white px-3 py-2 font-mono text-sm border-[#98a5a1]"
        maxLength={20_000}
        value={element.code}
        onChange={(event) => change({ code: event.target.value })}
      />
      {isCut(element.code) ? (
        <p role="status" className="text-soft">
          Scripts, frames and forms are left out here. Code of your own has its place in the settings of the page.
        </p>
      ) : null}
      {element.code.trim() !== '' && cleanHtml(element.code).trim() === '' ? <p className="text-stop font-semibold">Nothing of this can be shown.</p> : null}
    </>
  );
}
