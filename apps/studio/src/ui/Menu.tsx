import { DropdownMenu } from 'radix-ui';
import type { ComponentProps } from 'react';

/** What a button opens to choose from. Its parts without a look of their own are those of the primitive. */
export const Menu = DropdownMenu.Root;
export const MenuTrigger = DropdownMenu.Trigger;
export const MenuGroup = DropdownMenu.Group;

export function MenuList({ className = '', ...props }: ComponentProps<typeof DropdownMenu.Content>) {
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        sideOffset={6}
        collisionPadding={12}
        className={`z-50 min-w-52 max-h-[min(70vh,var(--radix-dropdown-menu-content-available-height))] overflow-y-auto rounded-md border border-line bg-white p-1.5 ${className}`}
        {...props}
      />
    </DropdownMenu.Portal>
  );
}

export function MenuItem({ className = '', ...props }: ComponentProps<typeof DropdownMenu.Item>) {
  return (
    <DropdownMenu.Item
      className={`flex w-full items-center gap-2.5 rounded-sm px-3 py-1.5 text-left cursor-pointer outline-none data-highlighted:bg-way-tint ${className}`}
      {...props}
    />
  );
}

export function MenuLabel(props: ComponentProps<typeof DropdownMenu.Label>) {
  return <DropdownMenu.Label className="px-3 pt-1.5 pb-0.5 text-soft text-[0.86rem] font-semibold" {...props} />;
}

export const MenuLine = () => <DropdownMenu.Separator className="my-1 h-px bg-line" />;
