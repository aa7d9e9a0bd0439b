import { DropdownMenu } from "radix-ui";
import type { ComponentType } from "react";
import { MenuButton } from "./MenuButton";

export interface MenuProps {
  label: string;
  choices: Choice[];
}

/** What can be chosen: something to do, or a file to fetch. */
interface Choice {
  icon: ComponentType<{ className?: string; "aria-hidden"?: boolean }>;
  text: string;
  onChoose?: () => void;
  href?: string;
}

const ITEM =
  "flex min-h-11 cursor-pointer items-center gap-2 rounded px-3 font-semibold data-[highlighted]:bg-soil";

/** The menu behind three dots, open at once: it is fetched for whoever asked for it. */
export default function MenuList({ label, choices }: MenuProps) {
  return (
    <DropdownMenu.Root modal={false} defaultOpen>
      <DropdownMenu.Trigger asChild>
        <MenuButton aria-label={label} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-52 rounded-md border border-quiet bg-sheet p-1 shadow-lg"
        >
          {choices.map((choice) => (
            <Item key={choice.text} {...choice} />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item({ icon: Icon, text, onChoose, href }: Choice) {
  const shown = (
    <>
      <Icon aria-hidden className="size-5" /> {text}
    </>
  );
  return href ? (
    <DropdownMenu.Item asChild className={ITEM}>
      <a href={href} download>
        {shown}
      </a>
    </DropdownMenu.Item>
  ) : (
    <DropdownMenu.Item className={ITEM} onSelect={onChoose}>
      {shown}
    </DropdownMenu.Item>
  );
}
