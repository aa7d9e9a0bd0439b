import type { ComponentProps } from "react";

const LOOK = {
  main: "bg-deep text-on-deep border-deep",
  plain: "bg-sheet text-ink border-quiet",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4",
  stop: "bg-hold-bg text-hold border-hold",
} as const;

export type ButtonLook = keyof typeof LOOK;

export const buttonClass = (look: ButtonLook = "plain") =>
  `inline-flex min-h-11 items-center justify-center gap-2 rounded-md border px-4 py-2 font-semibold ` +
  `disabled:opacity-60 ${LOOK[look]}`;

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: ButtonLook }) {
  return <button type="button" {...rest} className={`${buttonClass(look)} ${className}`} />;
}
