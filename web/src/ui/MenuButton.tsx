import { EllipsisVertical } from "lucide-react";
import type { ComponentProps } from "react";
import { buttonClass } from "./Button";

/** The three dots behind which a menu is. */
export function MenuButton(p: ComponentProps<"button">) {
  return (
    <button type="button" className={`${buttonClass("plain", true)} px-2.5`} {...p}>
      <EllipsisVertical aria-hidden className="size-5" />
    </button>
  );
}
