import { useEffect, useMemo, useRef, useState } from "react";
import type { Units } from "../../api/client";
import { placeText } from "../../api/units";
import type { Drafting } from "../../pictures/siteplan/DraftHandles";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { Corner, Target } from "./drawing";
import type { PlanDraft } from "./planDraft";
import type { Understood } from "./RouteField";

interface Props {
  form: EntryFormState<PlanDraft>;
  target: Target | null;
  /** The text of the target as it is, and how the server understands it. */
  text: string;
  found: Understood | null;
  units: Units;
  onDone: () => void;
}

/**
 * What is being drawn, as the plan shows and changes it: corners that are moved are shown at once and become text when
 * they are let go. Undo goes back step by step to how the text was when drawing began.
 */
export function useDrawn({ form, target, text, found, units, onDone }: Props): Drafting | null {
  const [moved, setMoved] = useState<Corner[] | null>(null);
  const [before, setBefore] = useState<string[]>([]);
  const began = useRef(target?.id);
  useEffect(() => {
    if (began.current !== target?.id) setBefore([]);
    began.current = target?.id;
    lately.current = [];
    setMoved(null);
  }, [target?.id]);
  // once the text is understood, what it says is shown; until then, what it said before
  const lately = useRef<Corner[]>([]);
  if (found?.ok) lately.current = found.corners;
  if (!text.trim()) lately.current = [];
  useEffect(() => {
    if (found) setMoved(null);
  }, [found]);
  const done = useRef(onDone);
  done.current = onDone;
  return useMemo(() => {
    if (!target) return null;
    const said = (at: Corner) => placeText(at, units);
    const path = target.path(form.getValues());
    const write = (next: string) => {
      setBefore((list) => [...list, text]);
      form.setValue(path, next);
    };
    const corners = moved ?? (found && !found.ok ? [] : lately.current);
    return {
      name: target.name,
      corners,
      closed: target.closed,
      one: target.one,
      onTap: (at) => {
        const rest = text.trim().replace(/;$/, "");
        setMoved(target.one ? [at] : [...corners, at]);
        write(target.one || !rest ? said(at) : `${rest}; ${said(at)}`);
      },
      onCorners: (next, settled) => {
        setMoved(next);
        if (settled) write(next.map(said).join("; "));
      },
      onUndo: before.length
        ? () => {
            setMoved(null);
            form.setValue(path, before[before.length - 1] ?? "");
            setBefore((list) => list.slice(0, -1));
          }
        : null,
      onDone: () => done.current(),
    };
  }, [target, form, text, found, units, moved, before]);
}
