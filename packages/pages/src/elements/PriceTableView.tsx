import type { ElementOf, PlanCard } from '@ruta/core/elements';
import { usePage } from '../context';
import type { ShownOption } from '../shownProduct';
import { WordsView } from '../WordsView';

/** Which price each card shows: its own, or else the next one that no other card shows. */
export function cardOptions(cards: readonly PlanCard[], options: readonly ShownOption[]): Array<ShownOption | undefined> {
  const named = new Set(cards.map(({ optionId }) => optionId));
  const free = options.filter(({ id }) => !named.has(id));
  return cards.map(({ optionId }) => (optionId === null ? free.shift() : options.find(({ id }) => id === optionId)));
}

export function PriceTableView({ element }: { element: ElementOf<'price-table'> }) {
  const { context, edit } = usePage();
  const options = cardOptions(element.cards, context.product?.options ?? []);
  const words = (content: PlanCard['title'], path: Array<string | number>, isLabel = false) => (
    <WordsView words={content} elementId={element.id} path={path} isLabel={isLabel} />
  );
  return (
    <div className="price-table">
      <ul>
        {element.cards.map((card, index) => {
          const option = options[index];
          if (!option && !edit) return null;
          const at = (...rest: Array<string | number>) => ['cards', index, ...rest];
          const button = words(card.button, at('button'), true);
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: cards have no identity of their own
            <li key={index} className={card.mark.length > 0 ? 'plan plan-marked' : 'plan'}>
              {card.mark.length > 0 ? <p className="plan-mark">{words(card.mark, at('mark'))}</p> : null}
              <h3 className="plan-title">{card.title.length > 0 || edit ? words(card.title, at('title')) : option?.title}</h3>
              {card.title.length === 0 && edit ? <p className="text-small">{option?.title ?? 'No price is left for this card'}</p> : null}
              <p className="plan-price">{option?.price ?? '–'}</p>
              {option?.description ? <p className="text-small">{option.description}</p> : null}
              {card.points.length > 0 ? (
                <ul className="list list-check">
                  {card.points.map((point, each) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: points have no identity of their own
                    <li key={each}>{words(point, at('points', each))}</li>
                  ))}
                </ul>
              ) : null}
              {edit ? (
                <span className="button button-main">{button}</span>
              ) : option?.isGone || context.product?.gone ? (
                <p className="plan-gone">{context.product?.gone ? 'Not on sale' : 'Sold out'}</p>
              ) : (
                <a className="button button-main" href={context.href({ kind: 'next' }, element.id, { option: option?.id })}>
                  {button}
                </a>
              )}
            </li>
          );
        })}
      </ul>
      {element.note.length > 0 || edit ? <p className="text text-small">{words(element.note, ['note'])}</p> : null}
    </div>
  );
}
