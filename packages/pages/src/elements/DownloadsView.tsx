import type { ElementOf } from '@ruta/core/elements';
import { type OrderView, usePage } from '../context';
import { WordsView } from '../WordsView';

/** Everything a buyer receives at once: the seller's words and button, files, links and licence keys. */
export function DownloadsView({ element }: { element: ElementOf<'downloads'> }) {
  const { context, edit } = usePage();
  const { order } = context;
  const isEmpty = !order || order.downloads.length + order.links.length + order.keys.length + order.confirmations.length === 0;
  if (isEmpty && !edit) return null;
  return (
    <section className="panel" aria-label="Downloads">
      <h2 className="panel-title">
        <WordsView words={element.title} elementId={element.id} path={['title']} />
      </h2>
      {isEmpty ? <p className="text-small">What the buyer receives stands here: files, links, keys.</p> : null}
      {order ? <Received order={order} /> : null}
    </section>
  );
}

/** Whom to write to, each once with all they answer for. */
function contactsOf({ contacts }: OrderView): Array<{ email: string; names: string[] }> {
  const byEmail = new Map<string, string[]>();
  for (const { email, name } of contacts) byEmail.set(email, [...(byEmail.get(email) ?? []), name]);
  return [...byEmail].map(([email, names]) => ({ email, names }));
}

function Received({ order }: { order: OrderView }) {
  const contacts = contactsOf(order);
  return (
    <>
      {order.confirmations.map((confirmation) => (
        <div key={confirmation.text + confirmation.buttonUrl} className="confirmation">
          {confirmation.text.split(/\n+/).map((paragraph) => (
            <p key={paragraph}>{paragraph}</p>
          ))}
          {confirmation.buttonUrl ? (
            <p>
              <a className="button button-quiet" href={confirmation.buttonUrl}>
                {confirmation.buttonWords}
              </a>
            </p>
          ) : null}
        </div>
      ))}
      <ul className="downloads">
        {order.links.map((link) => (
          <li key={link.url}>
            <a href={link.url}>{link.words}</a>
            <span className="text-small">from {link.from}</span>
          </li>
        ))}
        {order.downloads.map((file) => (
          <li key={file.url}>
            <a href={file.url} download>
              {file.name}
            </a>
            <span className="text-small">
              {file.size}, from {file.from}
            </span>
          </li>
        ))}
        {order.keys.map((key) => (
          <li key={key.value}>
            <code className="licence-key">{key.value}</code>
            <span className="text-small">your key for {key.from}</span>
          </li>
        ))}
      </ul>
      {contacts.map(({ email, names }) => (
        <p key={email} className="text-small">
          Something wrong{contacts.length > 1 ? ` with ${names.join(', ')}` : ''}? Write to <a href={`mailto:${email}`}>{email}</a>.
        </p>
      ))}
    </>
  );
}
