import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { type ElementType, elementRecordOf, isElementOf, type PageElement, plainText, wordPlaces } from '@ruta/core/elements';
import type { PageDocument } from '@ruta/core/page';
import {
  AlignLeft,
  ArrowRightLeft,
  BadgeCheck,
  BadgePlus,
  CalendarClock,
  CodeXml,
  Columns3,
  CreditCard,
  Download,
  Film,
  GalleryHorizontal,
  GripVertical,
  Heading,
  Image,
  List,
  ListChecks,
  ListOrdered,
  type LucideIcon,
  Menu as MenuIcon,
  MessageCircleQuestion,
  MessageSquareQuote,
  Minus,
  MousePointerClick,
  Package,
  PanelTop,
  Plus,
  Quote,
  Receipt,
  Rows3,
  Share2,
  ShieldCheck,
  Split,
  Table2,
  Tag,
  TextCursorInput,
  Timer,
  UnfoldVertical,
} from 'lucide-react';
import { type FocusEvent, Fragment, memo, type RefObject, useCallback, useEffect, useMemo, useRef } from 'react';
import { useAppDispatch } from '../base/store';
import { Menu, MenuItem, MenuLabel, MenuLine, MenuList, MenuTrigger } from '../ui/Menu';
import { alsoSelected, selected, useChosen, useElement, useSection, wordsAsked } from './editorSlice';

const ICONS: Record<ElementType, LucideIcon> = {
  headline: Heading,
  text: AlignLeft,
  picture: Image,
  button: MousePointerClick,
  list: List,
  testimonial: MessageSquareQuote,
  faq: MessageCircleQuestion,
  price: Tag,
  product: Package,
  form: TextCursorInput,
  'order-form': CreditCard,
  'order-summary': Receipt,
  offers: BadgePlus,
  countdown: Timer,
  receipt: Receipt,
  downloads: Download,
  guarantee: ShieldCheck,
  logo: PanelTop,
  divider: Minus,
  spacer: UnfoldVertical,
  appointment: CalendarClock,
  badges: BadgeCheck,
  comparison: Table2,
  html: CodeXml,
  'icon-list': ListChecks,
  logos: GalleryHorizontal,
  navigation: MenuIcon,
  'price-table': Columns3,
  progress: ArrowRightLeft,
  share: Share2,
  steps: ListOrdered,
  testimonials: Quote,
  video: Film,
};

export interface MoveRequest {
  id: string;
  kind: 'section' | 'element';
  overId: string;
}

/** What is on the page, as a tree: selects what is small or hidden, and moves things by dragging or by keyboard. */
export function Outline(props: {
  page: PageDocument;
  onAddElement: (type: ElementType) => void;
  onAddSection: () => void;
  onMove: (move: MoveRequest) => void;
}) {
  const { page } = props;
  const nav = useRef<HTMLElement>(null);
  const onFocus = useKeptFocus(nav, page);
  const order = page.sections
    .map((section) => [section.id, ...section.columns.flatMap((column) => column.elements.map((element) => element.id))].join(' '))
    .join('|');
  const latest = useRef(props.onMove);
  latest.current = props.onMove;
  const onMove = useCallback((move: MoveRequest) => latest.current(move), []);
  return (
    <nav ref={nav} onFocus={onFocus} aria-label="On this page" className="h-full flex flex-col">
      <div className="flex items-center justify-between px-4 pt-3 pb-1">
        <h2>On this page</h2>
        <AddMenu onAddElement={props.onAddElement} onAddSection={props.onAddSection} />
      </div>
      <div className="flex-1 overflow-y-auto px-2 pb-6">
        <Tree order={order} onMove={onMove} />
      </div>
    </nav>
  );
}

/** The rows: drawn anew when something is moved, added or taken away, and not with every letter. */
const Tree = memo(function Tree({ order, onMove }: { order: string; onMove: (move: MoveRequest) => void }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const sections = useMemo(() => (order === '' ? [] : order.split('|').map((ids) => ids.split(' '))), [order]);
  const ids = useMemo(() => sections.flat(), [sections]);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const id = String(active.id);
    onMove({ id, kind: sections.some(([sectionId]) => sectionId === id) ? 'section' : 'element', overId: String(over.id) });
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ul>
          {sections.map(([sectionId = '', ...elementIds]) => (
            <li key={sectionId}>
              <SectionRow id={sectionId} />
              <ul>
                {elementIds.map((id) => (
                  <li key={id}>
                    <ElementRow id={id} />
                  </li>
                ))}
              </ul>
            </li>
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
});

function SectionRow({ id }: { id: string }) {
  const section = useSection(id);
  return section ? <Row id={id} kind="section" icon={Rows3} words={section.name} hasWords={false} isConditional={section.show !== undefined} /> : null;
}

function ElementRow({ id }: { id: string }) {
  const element = useElement(id);
  if (!element) return null;
  return (
    <Row
      id={id}
      kind="element"
      icon={ICONS[element.type]}
      words={nameOf(element)}
      hasWords={wordPlaces(element).length > 0}
      isConditional={element.show !== undefined}
    />
  );
}

/** Brings the keyboard to the settings of what was just selected. */
function focusSheet(): void {
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-sheet] :is(input, select, textarea, button)')?.focus());
}

/** A row that was moved keeps the keyboard; of one that is gone its neighbour gets it. */
function useKeptFocus(nav: RefObject<HTMLElement | null>, page: PageDocument): (event: FocusEvent) => void {
  const last = useRef<{ id: string; index: number } | null>(null);
  const rows = () => [...(nav.current?.querySelectorAll<HTMLElement>('[data-outline]') ?? [])];
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at whenever the page changes
  useEffect(() => {
    if (!last.current || document.activeElement !== document.body) return;
    const { id, index } = last.current;
    const all = rows();
    (all.find((row) => row.dataset.outline === id) ?? all[Math.min(index, all.length - 1)])?.focus();
  }, [page]);
  return (event) => {
    const row = event.target.closest<HTMLElement>('[data-outline]');
    last.current = row ? { id: row.dataset.outline ?? '', index: rows().indexOf(row) } : null;
  };
}

const Row = memo(function Row(props: { id: string; kind: 'section' | 'element'; icon: LucideIcon; words: string; hasWords: boolean; isConditional: boolean }) {
  const { id, kind, icon: Icon, words, hasWords, isConditional } = props;
  const dispatch = useAppDispatch();
  const isSelected = useChosen(id);
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`group flex items-center rounded-md ${kind === 'element' ? 'ml-5' : 'mt-0.5'} ${isSelected ? 'bg-way-tint' : 'hover:bg-ground'} ${isDragging ? 'relative z-10 bg-white outline outline-soft' : ''}`}
    >
      <button
        type="button"
        aria-current={isSelected || undefined}
        data-outline={id}
        onClick={(event) => dispatch(event.ctrlKey || event.metaKey || event.shiftKey ? alsoSelected({ kind, id }) : selected({ kind, id }))}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          dispatch(selected({ kind, id }));
          if (hasWords) dispatch(wordsAsked(id));
          else focusSheet();
        }}
        className={`flex flex-1 min-w-0 items-center gap-2 px-2 py-1.5 text-left ${isSelected || kind === 'section' ? 'font-semibold' : ''}`}
      >
        <Icon size={16} className="shrink-0 text-soft" aria-hidden="true" />
        <span className="line-clamp-2 wrap-anywhere">{words}</span>
        {isConditional ? (
          <span className="shrink-0 text-experiment" title="Not shown to everybody">
            <Split size={14} aria-label="not shown to everybody" />
          </span>
        ) : null}
      </button>
      <button
        type="button"
        aria-label={`Move ${words}`}
        title="Drag to move; or Space, then the arrow keys"
        className="px-1 py-1.5 text-no opacity-0 group-hover:opacity-100 focus-visible:opacity-100 cursor-grab"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={15} aria-hidden="true" />
      </button>
    </div>
  );
});

/** Elements in the order in which they are offered, by what they are for. */
const ADDABLE: Array<{ group: string; types: ElementType[] }> = [
  { group: 'Words and pictures', types: ['headline', 'text', 'picture', 'video', 'list', 'icon-list', 'steps', 'faq', 'comparison'] },
  { group: 'To go on', types: ['button', 'form', 'appointment', 'navigation', 'share'] },
  { group: 'Proof', types: ['testimonial', 'testimonials', 'logos', 'badges', 'guarantee'] },
  { group: 'Selling', types: ['price', 'price-table', 'product', 'order-form', 'order-summary', 'offers', 'countdown', 'progress', 'receipt', 'downloads'] },
  { group: 'The page', types: ['logo', 'divider', 'spacer', 'html'] },
];

function AddMenu({ onAddElement, onAddSection }: { onAddElement: (type: ElementType) => void; onAddSection: () => void }) {
  return (
    <Menu>
      <MenuTrigger aria-label="Add to this page" title="Add to this page" className="grid place-items-center size-8 rounded-md text-soft hover:bg-band">
        <Plus size={18} />
      </MenuTrigger>
      <MenuList align="start">
        <MenuItem className="font-semibold" onSelect={onAddSection}>
          <Rows3 size={16} aria-hidden="true" /> Section, from the library
        </MenuItem>
        <MenuLine />
        {ADDABLE.map(({ group, types }) => (
          <Fragment key={group}>
            <MenuLabel>{group}</MenuLabel>
            {types.map((type) => {
              const Icon = ICONS[type];
              return (
                <MenuItem key={type} onSelect={() => onAddElement(type)}>
                  <Icon size={16} className="text-soft" aria-hidden="true" /> {elementRecordOf(type).name}
                </MenuItem>
              );
            })}
          </Fragment>
        ))}
      </MenuList>
    </Menu>
  );
}

function nameOf(element: PageElement): string {
  if (isElementOf(element, 'form')) return `Form: ${element.fields.map((field) => field.label.toLowerCase()).join(', ')}`;
  const words = 'words' in element ? plainText(element.words).slice(0, 40) : '';
  return words ? `${elementRecordOf(element.type).name}: ${words}` : elementRecordOf(element.type).name;
}
