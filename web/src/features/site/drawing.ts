import type { Path } from "react-hook-form";
import type { Job, Schemas } from "../../api/client";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { PlanDraft } from "./planDraft";

export type Corner = [number, number];

/** What is being tapped: which text of the plan the corners go into, found anew if other things have moved meanwhile. */
export interface Target {
  id: string;
  /** What the plan calls it while it is drawn. */
  name: string;
  one: boolean;
  closed: boolean;
  path: (plan: PlanDraft) => Path<PlanDraft>;
}

export interface PanelProps {
  job: Job;
  form: EntryFormState<PlanDraft>;
  target: Target | null;
  setTarget: (t: Target | null) => void;
  catalogue: Schemas["Catalogue"];
  site: Schemas["SiteView"];
}

export const tapping = (panel: PanelProps, target: Target) => ({
  drawing: panel.target?.id === target.id,
  onDraw: (on: boolean) => panel.setTarget(on ? target : null),
});
