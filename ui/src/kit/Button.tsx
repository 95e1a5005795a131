import type { ButtonHTMLAttributes } from "react";

type Kind = "plain" | "main" | "quiet";

const LOOK: Record<Kind, string> = {
  plain: "border border-copper text-copper hover:bg-touched",
  main: "bg-copper text-paper border border-copper hover:opacity-90",
  quiet: "text-copper hover:underline",
};

/** A button; large enough for a gloved finger where the pointer is coarse. */
export function Button({
  kind = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  const room = kind === "quiet" ? "px-1" : "px-2.5 py-0.5";
  return (
    <button
      type="button"
      className={`rounded-sm font-semibold disabled:opacity-45 pointer-coarse:min-h-11 ${room} ${LOOK[kind]} ${className}`}
      {...rest}
    />
  );
}
