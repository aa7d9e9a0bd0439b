import type { ComponentProps } from "react";

const LOOK = {
  main: "bg-deep text-on-deep border-deep",
  plain: "bg-sheet text-ink border-quiet",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4",
  stop: "bg-hold-bg text-hold border-hold",
} as const;

export type ButtonLook = keyof typeof LOOK;

/** Classes of a button; `tight`: it brings a width of its own at its sides. */
export const buttonClass = (look: ButtonLook = "plain", tight = false) =>
  `inline-flex min-h-11 items-center justify-center gap-2 rounded-md border py-2 font-semibold ` +
  `disabled:opacity-60 ${LOOK[look]} ${tight ? "" : "px-4"}`;

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: ButtonLook }) {
  return (
    <button
      type="button"
      {...rest}
      className={`${buttonClass(look, /(^|\s)px-/.test(className))} ${className}`}
    />
  );
}
