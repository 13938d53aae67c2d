import { type Brand, coloursFrom, contrast, FONT_PAIRS, paletteOf } from '@ruta/core/shop';
import { fontFaces } from '@ruta/pages';
import { PictureField } from '../files/PictureField';
import { Button } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';
import { LookChooser } from './LookChooser';

const COLOURS = [
  { name: 'main', label: 'Main colour', hint: 'Headers, headlines, running text.' },
  { name: 'accent', label: 'Accent', hint: 'Buttons and small marks.' },
  { name: 'ground', label: 'Ground', hint: 'What everything stands on.' },
] as const;

const BUTTONS = { '': 'As the look has them', square: 'Square', rounded: 'Rounded', pill: 'Round at the ends' };
const PICTURES = { '': 'As the look has them', plain: 'Plain', framed: 'Framed', soft: 'Soft corners and a shadow', toned: 'Almost without colour' };

const isColour = (typed: string) => /^#[0-9a-f]{6}$/i.test(typed);
const wholeColour = (typed: string, instead: string) => (isColour(typed) ? typed : instead);

interface BrandFieldsProps {
  brand: Brand;
  shopName: string;
  /** What is wrong, by the name of the field. */
  errors: Partial<Record<keyof Brand, string | undefined>>;
  onChange: (changes: Partial<Brand>) => void;
}

/** Everything of a brand, with what it does shown while it is chosen. */
export function BrandFields({ brand, shopName, errors, onChange }: BrandFieldsProps) {
  const isWhole = COLOURS.every(({ name }) => isColour(brand[name]));
  return (
    <>
      <div className="grid grid-cols-1 sm:grid-cols-3 gap-4">
        {COLOURS.map(({ name, label, hint }) => (
          <div key={name} className="flex items-end gap-2 min-w-0">
            <div className="flex-1 min-w-0">
              <TextField
                label={label}
                name={name}
                hint={hint}
                error={errors[name]}
                value={brand[name]}
                onChange={(event) => onChange({ [name]: event.target.value })}
              />
            </div>
            <input
              type="color"
              aria-label={`${label}, picker`}
              className="h-9.5 w-11 rounded-md border border-line bg-white p-1 mb-auto mt-6"
              value={wholeColour(brand[name], '#000000')}
              onChange={(event) => onChange({ [name]: event.target.value.toUpperCase() })}
            />
          </div>
        ))}
      </div>
      <p>
        <Button disabled={!isColour(brand.main)} onClick={() => onChange(coloursFrom(brand.main))}>
          Make accent and ground from the main colour
        </Button>
      </p>
      <div className="grid sm:grid-cols-2 gap-4">
        <SelectField label="Typefaces" error={errors.fonts} value={brand.fonts} onChange={(event) => onChange({ fonts: event.target.value as Brand['fonts'] })}>
          {Object.entries(FONT_PAIRS).map(([key, pair]) => (
            <option key={key} value={key}>
              {pair.name}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Corner, in pixels"
          type="number"
          min={0}
          max={24}
          error={errors.corner}
          value={Number.isNaN(brand.corner) ? '' : brand.corner}
          onChange={(event) => onChange({ corner: event.target.valueAsNumber })}
        />
        <SelectField
          label="Buttons and fields"
          value={brand.buttons ?? ''}
          onChange={(event) => onChange({ buttons: (event.target.value as Brand['buttons'] | '') || undefined })}
        >
          {Object.entries(BUTTONS).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Pictures"
          value={brand.pictures ?? ''}
          onChange={(event) => onChange({ pictures: (event.target.value as Brand['pictures'] | '') || undefined })}
        >
          {Object.entries(PICTURES).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </SelectField>
        <PictureField label="Logo" fileId={brand.logoId ?? null} onChoose={(id) => onChange({ logoId: id ?? undefined })} />
        <PictureField label="Icon in the browser’s tab" fileId={brand.iconId ?? null} onChoose={(id) => onChange({ iconId: id ?? undefined })} />
      </div>
      {isWhole ? <LookChooser brand={brand} shopName={shopName} value={brand.look ?? 'plain'} onChange={(look) => onChange({ look })} /> : null}
      {isWhole ? <Preview brand={brand} shopName={shopName} /> : null}
    </>
  );
}

function Preview({ brand, shopName }: { brand: Brand; shopName: string }) {
  const palette = paletteOf(brand);
  const { heading, body } = FONT_PAIRS[brand.fonts];
  const headingFont = `"${heading.family}", ${heading.fallback}`;
  return (
    <div className="rounded-md border border-line overflow-hidden" style={{ fontFamily: `"${body.family}", ${body.fallback}` }}>
      <style>{fontFaces(brand)}</style>
      <div style={{ background: palette.dark, color: palette.onDark, fontFamily: headingFont }} className="px-5 py-3 text-lg font-semibold">
        {brand.logoId ? <img src={`/media/${brand.logoId}/480.webp`} alt={shopName} className="h-10 w-auto" /> : shopName}
      </div>
      <div style={{ background: palette.ground, color: palette.ink }} className="px-5 py-5">
        <p style={{ fontFamily: headingFont }} className="text-2xl font-semibold mb-1">
          A headline in your brand
        </p>
        <p style={{ color: palette.softInk }} className="mb-3">
          Running text, {contrast(palette.softInk, palette.ground).toFixed(1)} : 1 against the ground.
        </p>
        <span style={{ background: palette.accent, color: palette.onAccent, borderRadius: brand.corner }} className="inline-block px-5 py-2.5 font-semibold">
          A button
        </span>
      </div>
    </div>
  );
}
