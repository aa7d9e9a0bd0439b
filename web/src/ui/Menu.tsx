import { useState } from "react";
import { afterFirstPaint } from "./afterFirstPaint";
import { fetched } from "./fetched";
import { MenuButton } from "./MenuButton";
import type { MenuProps } from "./MenuList";

interface ClosedProps {
  label: string;
  onClick?: () => void;
}

const Closed = ({ label, onClick }: ClosedProps) => (
  <MenuButton aria-label={label} aria-haspopup="menu" aria-expanded={false} onClick={onClick} />
);

const MenuList = fetched<MenuProps>(() => import("./MenuList"), Closed);
afterFirstPaint(MenuList.ahead);

/** What is done seldom, behind three dots. */
export function Menu(p: MenuProps) {
  const [opened, setOpened] = useState(false);
  return opened ? <MenuList {...p} /> : <Closed label={p.label} onClick={() => setOpened(true)} />;
}
