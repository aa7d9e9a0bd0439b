import { fetched } from "../ui/fetched";

/** The page of each step of a line, by the last part of its address. */
export const stepPages = {
  plan: fetched(() => import("../features/plan/PlanPage")),
  hookup: fetched(() => import("../features/hookup/HookupPage")),
  sweep: fetched(() => import("../features/sweep/SweepPage")),
  trace: fetched(() => import("../features/trace/TracePage")),
  sonde: fetched(() => import("../features/sonde/SondePage")),
  fault: fetched(() => import("../features/fault/FaultPage")),
  mark: fetched(() => import("../features/marks/MarksPage")),
};

/** Return a step's page; null where no step has that name. */
export const pageOf = (step: string | undefined) =>
  step && Object.hasOwn(stepPages, step) ? stepPages[step as keyof typeof stepPages] : null;
