import { newPlanCard, placeholder, plainText, words } from '@ruta/core/elements';
import { Check, SelectField } from '../../ui/Field';
import { Items } from './Items';
import type { SheetProps } from './sheet';

export function PriceTableSheet({ element, context, change }: SheetProps<'price-table'>) {
  const options = context.product?.options ?? [];
  return (
    <>
      {options.length === 0 ? <p className="text-stop font-semibold">This stop has no product yet, so that there are no prices to show.</p> : null}
      <Items
        items={element.cards}
        noun="card"
        nameOf={({ title, optionId }) => plainText(title) || options.find(({ id }) => id === optionId)?.title || ''}
        make={newPlanCard}
        onChange={(cards) => change({ cards })}
        most={6}
      >
        {(card, set) => (
          <>
            <SelectField label="Price" value={card.optionId ?? ''} onChange={(event) => set({ optionId: event.target.value || null })}>
              <option value="">The next one that no other card shows</option>
              {options.map(({ id, title, price }) => (
                <option key={id} value={id}>
                  {title} · {price}
                </option>
              ))}
            </SelectField>
            <Check label="Stands out" checked={card.mark.length > 0} onChange={(event) => set({ mark: event.target.checked ? words('Most chosen') : [] })} />
            <Items
              items={card.points.map((content) => ({ content }))}
              noun="point"
              nameOf={({ content }) => plainText(content)}
              make={() => ({ content: placeholder('What comes with it') })}
              onChange={(points) => set({ points: points.map(({ content }) => content) })}
              most={20}
              least={0}
            />
          </>
        )}
      </Items>
    </>
  );
}
