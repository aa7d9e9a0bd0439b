import { Suspense, useState } from "react";
import { afterFirstPaint } from "./afterFirstPaint";
import { fetched } from "./fetched";
import { MenuButton } from "./MenuButton";
import type { MenuProps } from "./MenuList";

const MenuList = fetched(() => import("./MenuList"));
afterFirstPaint(MenuList.ahead);

/** What is done seldom, behind three dots. */
export function Menu(p: MenuProps) {
  const [opened, setOpened] = useState(false);
  const closed = (
    <MenuButton
      aria-label={p.label}
      aria-haspopup="menu"
      aria-expanded={false}
      onClick={() => setOpened(true)}
    />
  );
  return opened ? (
    <Suspense fallback={closed}>
      <MenuList {...p} />
    </Suspense>
  ) : (
    closed
  );
}
