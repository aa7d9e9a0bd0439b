import type { Job, Refusal, Schemas } from "../../api/client";
import type { PlanDraft } from "./planDraft";

export type Corner = [number, number];

export interface Drawing {
  corners: Corner[];
  closed: boolean;
  onTap: (at: Corner) => void;
}

/** What is being tapped: which text of the draft the corners go into, even if other things have changed meanwhile. */
export interface Target {
  id: string;
  one: boolean;
  closed: boolean;
  get: (draft: PlanDraft) => string;
  put: (draft: PlanDraft, text: string) => Partial<PlanDraft>;
}

export interface PanelProps {
  job: Job;
  draft: PlanDraft;
  change: (patch: Partial<PlanDraft>) => void;
  error: Refusal | null;
  target: Target | null;
  setTarget: (t: Target | null) => void;
  catalogue: Schemas["Catalogue"];
  site: Schemas["SiteView"];
}

export const tapping = (panel: PanelProps, target: Target) => ({
  drawing: panel.target?.id === target.id,
  onDraw: (on: boolean) => panel.setTarget(on ? target : null),
});
