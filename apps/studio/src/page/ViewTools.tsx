import { GalleryHorizontalEnd, Monitor, Smartphone, SquareDashed, Tablet } from 'lucide-react';
import type { ReactNode } from 'react';
import { useAppDispatch } from '../base/store';
import { besideToggled, outlinesToggled, SCREEN_WIDTHS, type Screen, screenChosen, useEditor, WIDTH_RANGE, widthChosen } from './editorSlice';

const SCREENS: Array<{ screen: Screen; name: string; icon: typeof Monitor }> = [
  { screen: 'phone', name: `Phone, ${SCREEN_WIDTHS.phone} wide`, icon: Smartphone },
  { screen: 'tablet', name: `Tablet, ${SCREEN_WIDTHS.tablet} wide`, icon: Tablet },
  { screen: 'desktop', name: `Desktop, ${SCREEN_WIDTHS.desktop} wide`, icon: Monitor },
];

/** How the page is looked at: its width, all screens at once, and a line around every part. */
export function ViewTools() {
  const dispatch = useAppDispatch();
  const { view } = useEditor();
  const width = view.width ?? SCREEN_WIDTHS[view.screen];
  return (
    <>
      <Toggle name="Lines around every part" pressed={view.hasOutlines} onClick={() => dispatch(outlinesToggled())} alone>
        <SquareDashed size={17} aria-hidden="true" />
      </Toggle>
      <fieldset className="flex rounded-md border border-line bg-white p-0.5">
        <legend className="sr-only">Width of the screen</legend>
        {SCREENS.map(({ screen, name, icon: Icon }) => (
          <Toggle
            key={screen}
            name={name}
            pressed={!view.isBeside && view.width === null && view.screen === screen}
            onClick={() => {
              if (view.isBeside) dispatch(besideToggled());
              dispatch(screenChosen(screen));
            }}
          >
            <Icon size={17} aria-hidden="true" />
          </Toggle>
        ))}
        <Toggle name="All screens beside each other" pressed={view.isBeside} onClick={() => dispatch(besideToggled())}>
          <GalleryHorizontalEnd size={17} aria-hidden="true" />
        </Toggle>
        {view.isBeside ? null : <WidthField key={width} width={width} isOwn={view.width !== null} onChange={(next) => dispatch(widthChosen(next))} />}
      </fieldset>
    </>
  );
}

/** The width as a number, to be typed; taken over when it is left or Enter is pressed. */
function WidthField({ width, isOwn, onChange }: { width: number; isOwn: boolean; onChange: (width: number) => void }) {
  const take = (value: string) => {
    const next = Number(value);
    if (value.trim() !== '' && Number.isFinite(next) && next !== width) onChange(next);
  };
  return (
    <input
      type="text"
      inputMode="numeric"
      aria-label="Width of the page in pixels"
      title={`Any width from ${WIDTH_RANGE.least} to ${WIDTH_RANGE.most} pixels; or drag the edge of the page`}
      defaultValue={width}
      onBlur={(event) => take(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take(event.currentTarget.value);
      }}
      className={`w-14 rounded-sm px-1.5 text-right tabular-nums ${isOwn ? 'font-semibold' : 'text-soft'}`}
    />
  );
}

function Toggle(props: { name: string; pressed: boolean; onClick: () => void; alone?: boolean; children: ReactNode }) {
  const { name, pressed, alone } = props;
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={pressed}
      onClick={props.onClick}
      className={`grid place-items-center w-9 ${alone ? 'h-8 rounded-md border border-line' : 'h-7 rounded-sm'} ${pressed ? 'bg-ink text-white' : `text-soft hover:bg-band ${alone ? 'bg-white' : ''}`}`}
    >
      {props.children}
    </button>
  );
}
