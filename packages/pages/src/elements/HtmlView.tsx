import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';

export function HtmlView({ element }: { element: ElementOf<'html'> }) {
  const { context, edit } = usePage();
  if (edit && element.code.trim() === '') return <div className="picture-empty">No HTML yet</div>;
  // biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned of everything that runs or breaks out of its place
  return <div className="own-html" dangerouslySetInnerHTML={{ __html: context.cleanHtml(element.code) }} />;
}
