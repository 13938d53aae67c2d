import { BOUND_VALUES, type BoundValue, type ElementOf, type Operation, type PageElement, PRODUCT_PARTS, words } from '@ruta/core';
import type { PageContext } from '@ruta/pages';
import { Plus, Trash2 } from 'lucide-react';
import { Button, IconButton } from '../ui/Button';
import { Check, SelectField, TextField } from '../ui/Field';
import { ActionChooser } from './ActionChooser';
import { FormFields } from './FormFields';
import { PictureChooser } from './PictureChooser';
import { insertBound } from './WordsEditor';

type Change = (changes: Record<string, unknown>) => void;

/** Settings of one element; its words are edited on the page itself. */
export function ElementSheet({ element, context, apply }: { element: PageElement; context: PageContext; apply: (operation: Operation) => void }) {
  const change: Change = (changes) => apply({ kind: 'changeElement', elementId: element.id, changes });
  return (
    <div className="grid gap-3">
      <Fields element={element} context={context} change={change} />
      {'words' in element ? <BoundChips words={element.words} change={change} /> : null}
    </div>
  );
}

function Fields({ element, context, change }: { element: PageElement; context: PageContext; change: Change }) {
  switch (element.type) {
    case 'headline':
      return (
        <>
          <SelectField label="Level" value={element.level} onChange={(event) => change({ level: Number(event.target.value) })}>
            <option value={1}>Main headline (h1)</option>
            <option value={2}>Section headline (h2)</option>
            <option value={3}>Small headline (h3)</option>
          </SelectField>
          <Choice label="Size" value={element.size} choices={{ large: 'Large', medium: 'Medium', small: 'Small' }} onChange={(size) => change({ size })} />
        </>
      );
    case 'text':
      return (
        <Choice
          label="Style"
          value={element.style}
          choices={{ body: 'Running text', lead: 'Lead, larger', small: 'Small', eyebrow: 'Line above a headline' }}
          onChange={(style) => change({ style })}
        />
      );
    case 'picture':
      return <PictureFields element={element} context={context} change={change} />;
    case 'button':
      return (
        <>
          <ActionChooser action={element.action} onChange={(action) => change({ action })} />
          <Choice
            label="Look"
            value={element.style}
            choices={{ main: 'Main', quiet: 'Quiet, outlined', link: 'Plain link' }}
            onChange={(style) => change({ style })}
          />
        </>
      );
    case 'list':
      return <ListFields element={element} change={change} />;
    case 'testimonial':
      return (
        <>
          <TextField label="Name" maxLength={120} value={element.name} onChange={(event) => change({ name: event.target.value })} />
          <TextField label="Town or role" maxLength={120} value={element.detail} onChange={(event) => change({ detail: event.target.value })} />
        </>
      );
    case 'faq':
      return <QuestionFields element={element} change={change} />;
    case 'form':
      return <FormFields element={element} change={change} />;
    case 'order-form':
      return (
        <>
          <p className="text-soft">First name and e-mail are always asked: the receipt needs them.</p>
          <Check label="Ask for the last name" checked={element.askLastName} onChange={(event) => change({ askLastName: event.target.checked })} />
          <Check
            label="Ask for the country"
            hint="The tax depends on it. Without it your own country counts."
            checked={element.askCountry}
            onChange={(event) => change({ askCountry: event.target.checked })}
          />
          <Check label="Ask how many" checked={element.askQuantity ?? false} onChange={(event) => change({ askQuantity: event.target.checked })} />
          <Check
            label="Ask for a business tax number"
            hint="Businesses elsewhere in the European Union then pay without tax."
            checked={element.askTaxNumber ?? false}
            onChange={(event) => change({ askTaxNumber: event.target.checked })}
          />
          <Check
            label="Show a field for a discount code"
            hint="Without it, codes can only come with a link."
            checked={!element.hideCode}
            onChange={(event) => change({ hideCode: !event.target.checked })}
          />
        </>
      );
    case 'spacer':
      return (
        <Choice label="Height" value={element.size} choices={{ small: 'Small', medium: 'Medium', large: 'Large' }} onChange={(size) => change({ size })} />
      );
    case 'price':
      return <p className="text-soft">Shows the price of this stop’s product, and the old one struck through while it is on sale.</p>;
    case 'product':
      return (
        <fieldset>
          <legend className="font-semibold mb-1">Shows, from the product’s sheet</legend>
          {PRODUCT_PARTS.map((part) => (
            <Check
              key={part}
              label={PRODUCT_PART_NAMES[part]}
              checked={element.shows.includes(part)}
              disabled={element.shows.length === 1 && element.shows[0] === part}
              onChange={(event) => change({ shows: PRODUCT_PARTS.filter((other) => (other === part ? event.target.checked : element.shows.includes(other))) })}
            />
          ))}
        </fieldset>
      );
    case 'order-summary':
      return <p className="text-soft">Shows what is in the order, worked out by the same sums as the payment.</p>;
    case 'receipt':
      return <p className="text-soft">Shows what was bought and paid, to the buyer only.</p>;
    case 'downloads':
      return <p className="text-soft">Shows the files that came with the order, with links that end after a day and are made fresh at every visit.</p>;
    case 'logo':
      return <p className="text-soft">Shows the shop’s name in the brand’s headline type.</p>;
    case 'guarantee':
    case 'divider':
      return null;
  }
}

const PRODUCT_PART_NAMES = { description: 'The description', included: 'What is included', preview: 'The link to a preview', policy: 'The refund policy' };

function Choice<T extends string>({ label, value, choices, onChange }: { label: string; value: T; choices: Record<T, string>; onChange: (value: T) => void }) {
  return (
    <SelectField label={label} value={value} onChange={(event) => onChange(event.target.value as T)}>
      {Object.entries<string>(choices).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </SelectField>
  );
}

function PictureFields({ element, context, change }: { element: ElementOf<'picture'>; context: PageContext; change: Change }) {
  const { source } = element;
  const kind = source?.kind ?? 'none';
  return (
    <>
      <SelectField
        label="Which picture"
        value={kind === 'none' ? 'file' : kind}
        onChange={(event) => change({ source: event.target.value === 'file' ? null : { kind: event.target.value } })}
      >
        <option value="file">One of its own</option>
        {context.product ? <option value="product">The product’s picture</option> : null}
        {context.gift ? <option value="gift">The gift’s picture</option> : null}
      </SelectField>
      {kind === 'file' || kind === 'none' ? (
        <PictureChooser
          label="Picture"
          fileId={source?.kind === 'file' ? source.fileId : null}
          onChoose={(fileId) => change({ source: fileId ? { kind: 'file', fileId } : null })}
        />
      ) : null}
      <TextField
        label="Text alternative"
        hint="Says what the picture shows, for people who cannot see it."
        maxLength={250}
        value={element.alt}
        onChange={(event) => change({ alt: event.target.value })}
      />
      <Choice
        label="Shape"
        value={element.shape}
        choices={{ natural: 'As it is', wide: 'Wide', square: 'Square', round: 'Round' }}
        onChange={(shape) => change({ shape })}
      />
    </>
  );
}

function ListFields({ element, change }: { element: ElementOf<'list'>; change: Change }) {
  return (
    <>
      <Choice
        label="Mark"
        value={element.marker}
        choices={{ check: 'Check marks', dot: 'Dots', number: 'Numbers' }}
        onChange={(marker) => change({ marker })}
      />
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => change({ items: [...element.items, words('One more')] })}>
          <Plus size={15} aria-hidden="true" /> Add a line
        </Button>
        <Button disabled={element.items.length < 2} onClick={() => change({ items: element.items.slice(0, -1) })}>
          Remove the last
        </Button>
      </div>
    </>
  );
}

function QuestionFields({ element, change }: { element: ElementOf<'faq'>; change: Change }) {
  return (
    <>
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: questions have no identity of their own
        <div key={index} className="flex items-end gap-1">
          <div className="flex-1">
            <TextField
              label={`Question ${index + 1}`}
              maxLength={200}
              value={item.question}
              error={item.question === '' ? 'Write the question.' : undefined}
              onChange={(event) => change({ items: element.items.with(index, { ...item, question: event.target.value }) })}
            />
          </div>
          <IconButton
            name={`Remove question ${index + 1}`}
            disabled={element.items.length < 2}
            onClick={() => change({ items: element.items.toSpliced(index, 1) })}
          >
            <Trash2 size={15} />
          </IconButton>
        </div>
      ))}
      <Button onClick={() => change({ items: [...element.items, { question: 'Another question', answer: words('A short, honest answer.') }] })}>
        <Plus size={15} aria-hidden="true" /> Add a question
      </Button>
    </>
  );
}

/** Buttons that put a value into the words which follows the product, the buyer or the shop. */
function BoundChips({ words: content, change }: { words: ElementOf<'text'>['words']; change: Change }) {
  return (
    <div>
      <p className="font-semibold mb-1">Say what is bound</p>
      <p className="text-soft mb-2">Follows the product, the buyer or the shop by itself.</p>
      <div className="flex flex-wrap gap-1.5">
        {(Object.entries(BOUND_VALUES) as Array<[BoundValue, string]>).map(([value, name]) => (
          <button
            key={value}
            type="button"
            className="rounded-md bg-info-tint text-info font-semibold px-2 py-0.5 hover:outline-2 hover:outline-info"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => {
              if (!insertBound(value)) change({ words: [...content, { type: 'bound', value }] });
            }}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}
