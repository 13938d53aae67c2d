import { words } from '@ruta/core/elements';
import { PAGE_VERSION, type PageDocument } from '@ruta/core/page';
import { buildSection, headlinePart, part, textPart } from '@ruta/core/sections';
import { type Brand, LOOK_NAMES, LOOKS, type LookName } from '@ruta/core/shop';
import { shopContext } from '@ruta/pages';
import { useMemo } from 'react';
import { newId } from '../base/newId';
import { PagePicture } from '../ui/PagePicture';

const PICTURE = { width: 300, height: 190 };

interface ChooserProps {
  brand: Brand;
  shopName: string;
  value: LookName;
  onChange: (look: LookName) => void;
}

/** The character of all pages, chosen by picture: each shows the same words in the brand's colours and typefaces. */
export function LookChooser({ brand, shopName, value, onChange }: ChooserProps) {
  const page = useMemo(() => samplePage(), []);
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Look</legend>
      <p className="text-soft mb-3">Changes the character of every page and checkout; what stands on them stays as it is.</p>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3">
        {LOOK_NAMES.map((look) => (
          <label
            key={look}
            className={`block rounded-md border-2 overflow-hidden cursor-pointer bg-white has-focus-visible:outline-2 has-focus-visible:outline-info ${look === value ? 'border-ink' : 'border-line hover:border-soft'}`}
          >
            <PagePicture
              page={page}
              context={shopContext({ ...brand, look }, { name: shopName, email: '', currency: 'EUR' })}
              width={PICTURE.width}
              height={PICTURE.height}
            />
            <span className="block border-t border-line px-3 py-2">
              <span className="flex items-center gap-2 font-semibold">
                <input type="radio" name="look" value={look} checked={look === value} onChange={() => onChange(look)} className="size-4 accent-go" />
                {LOOKS[look].name}
              </span>
              <span className="block text-soft text-[0.92rem]">{LOOKS[look].purpose}</span>
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** A first screen and a quieter second one, with what most pages have. */
function samplePage(): PageDocument {
  const plans = [
    { name: 'Header', ground: 'dark' as const, space: 'tight' as const, columns: [{ span: 12, parts: [part('logo')] }] },
    {
      name: 'Opening',
      ground: 'dark' as const,
      space: 'wide' as const,
      columns: [
        {
          span: 12,
          parts: [
            textPart('eyebrow', words('Six short lessons')),
            headlinePart(1, 'large', words('Know what you see')),
            textPart('lead', words('One evening each, from your own window.')),
            part('button', { words: words('Begin on Monday') }),
          ],
        },
      ],
    },
    {
      name: 'Inside',
      ground: 'tint' as const,
      columns: [
        { span: 5, parts: [headlinePart(2, 'medium', words('What is in it'))] },
        { span: 7, parts: [part('list', { items: [words('A map for each month'), words('Ten minutes to read'), words('One thing to do outside')] })] },
      ],
    },
  ];
  return { version: PAGE_VERSION, title: 'A look', description: '', indexed: false, sections: plans.map((plan) => buildSection(plan, newId)) };
}
