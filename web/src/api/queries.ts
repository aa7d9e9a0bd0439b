import {
  hashKey,
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { api, asRefusal, type Refusal, type Schemas, take, type Units } from "./client";
import { dependsOn, type Kind } from "./dependents";

/** Which jobs a list shows. */
export type Standing = "all" | "unmarked" | "marked" | "overdue";

export const useJobs = (words = "", standing: Standing = "all") =>
  useInfiniteQuery({
    queryKey: ["jobs", { words, standing }],
    initialPageParam: undefined as number | undefined,
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      take(api.GET("/api/jobs", { params: { query: { before: pageParam, words, standing } } })),
    getNextPageParam: (page: Schemas["JobsView"]) => (page.more ? page.jobs.at(-1)?.id : undefined),
  });

export const useJob = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id],
    queryFn: () => take(api.GET("/api/jobs/{job_id}", { params: { path: { job_id } } })),
  });

/** How a job stands by the judge: it may take a moment, so pages that need nothing of it do not ask. */
export const useStanding = (job_id: number, enabled = true) =>
  useQuery({
    queryKey: ["job", job_id, "standing"],
    enabled,
    queryFn: ({ signal }) =>
      take(api.GET("/api/jobs/{job_id}/standing", { signal, params: { path: { job_id } } })),
  });

export const useRecord = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "record"],
    queryFn: ({ signal }) =>
      take(api.GET("/api/jobs/{job_id}/record", { signal, params: { path: { job_id } } })) as Promise<
        Schemas["RecordView"]
      >,
  });

export const useCatalogue = () =>
  useQuery({ queryKey: ["catalogue"], queryFn: () => take(api.GET("/api/catalogue")), staleTime: Infinity });

export const useRules = (units: Units, kit_id: number | null) =>
  useQuery({
    queryKey: ["rules", units, kit_id],
    queryFn: () => take(api.GET("/api/rules", { params: { query: { units, kit_id } } })),
  });

export const useKits = () => useQuery({ queryKey: ["kits"], queryFn: () => take(api.GET("/api/kits")) });

export const useLine = (line_id: number, enabled = true) =>
  useQuery({
    queryKey: ["line", line_id],
    enabled,
    queryFn: () => take(api.GET("/api/lines/{line_id}", { params: { path: { line_id } } })),
  });

export const useBeside = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "beside"],
    queryFn: () => take(api.GET("/api/jobs/{job_id}/beside", { params: { path: { job_id } } })),
  });

export const usePlan = (line_id: number) =>
  useQuery({
    queryKey: ["line", line_id, "plan"],
    queryFn: ({ signal }) =>
      take(api.GET("/api/lines/{line_id}/plan", { signal, params: { path: { line_id } } })) as Promise<
        Schemas["PlanView"]
      >,
  });

export const usePlanRest = (line_id: number, enabled: boolean) =>
  useQuery({
    queryKey: ["line", line_id, "plan", "rest"],
    enabled,
    queryFn: ({ signal }) =>
      take(api.GET("/api/lines/{line_id}/plan/rest", { signal, params: { path: { line_id } } })) as Promise<
        Schemas["PlanRestView"]
      >,
  });

export const useSite = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "site"],
    queryFn: () =>
      take(api.GET("/api/jobs/{job_id}/site", { params: { path: { job_id } } })) as Promise<
        Schemas["SiteView"]
      >,
  });

export const useMarking = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "marking"],
    queryFn: () => take(api.GET("/api/jobs/{job_id}/marking", { params: { path: { job_id } } })),
  });

export const useBefore = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "before"],
    queryFn: () =>
      take(api.GET("/api/jobs/{job_id}/before", { params: { path: { job_id } } })) as Promise<
        Schemas["BeforeView"]
      >,
  });

export const useWork = (job_id: number, enabled: boolean) =>
  useQuery({
    queryKey: ["job", job_id, "work"],
    enabled,
    queryFn: ({ signal }) =>
      take(api.GET("/api/jobs/{job_id}/site/work", { signal, params: { path: { job_id } } })) as Promise<
        Schemas["WorkView"]
      >,
  });

export const useFound = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "found"],
    queryFn: ({ signal }) =>
      take(api.GET("/api/jobs/{job_id}/site/found", { signal, params: { path: { job_id } } })) as Promise<
        Schemas["FoundView"]
      >,
  });

export const useHookup = (setup_id: number | null) =>
  useQuery({
    queryKey: ["setup", setup_id],
    enabled: setup_id !== null,
    queryFn: () => take(api.GET("/api/setups/{setup_id}", { params: { path: { setup_id: setup_id ?? 0 } } })),
  });

export const useRemedies = (setup_id: number) =>
  useQuery({
    queryKey: ["setup", setup_id, "remedies"],
    queryFn: ({ signal }) =>
      take(api.GET("/api/setups/{setup_id}/remedies", { signal, params: { path: { setup_id } } })) as Promise<
        Schemas["RemediesView"]
      >,
  });

export const traceKey = (setup_id: number | null) => ["setup", setup_id, "trace"] as const;

const trace = (setup_id: number) =>
  take(api.GET("/api/setups/{setup_id}/trace", { params: { path: { setup_id } } }));

export const useTrace = (setup_id: number | null) =>
  useQuery({
    queryKey: traceKey(setup_id),
    enabled: setup_id !== null,
    queryFn: () => trace(setup_id ?? 0),
  });

/** The trace after an entry; where it is so long that it is judged on demand, `onStored` hears how long it is first. */
export async function judgedTrace(
  entered: Promise<Schemas["TraceView"] | Schemas["StationStored"]>,
  onStored: (stations: number) => void = () => {},
): Promise<Schemas["TraceView"]> {
  const answer = await entered;
  if (typeof answer.stations !== "number") return answer as Schemas["TraceView"];
  onStored(answer.stations);
  return trace(answer.setup_id);
}

export const useStation = (station_id: number | null) =>
  useQuery({
    queryKey: ["station", station_id],
    enabled: station_id !== null,
    queryFn: () =>
      take(
        api.GET("/api/stations/{station_id}", { params: { path: { station_id: station_id ?? 0 } } }),
      ) as Promise<Schemas["StationDetail"]>,
  });

export const sondeKey = (line_id: number) => ["line", line_id, "sonde"] as const;

export const useSonde = (line_id: number, enabled = true) =>
  useQuery({
    queryKey: sondeKey(line_id),
    enabled,
    queryFn: () => take(api.GET("/api/lines/{line_id}/sonde", { params: { path: { line_id } } })),
  });

export const faultKey = (line_id: number) => ["line", line_id, "fault"] as const;

export const useFault = (line_id: number) =>
  useQuery({
    queryKey: faultKey(line_id),
    queryFn: () => take(api.GET("/api/lines/{line_id}/fault", { params: { path: { line_id } } })),
  });

export const usePractice = (technician: string) =>
  useQuery({
    queryKey: ["practice", technician],
    queryFn: () => take(api.GET("/api/practice", { params: { query: { technician } } })),
  });

export const useCrew = () =>
  useQuery({ queryKey: ["practice", "crew"], queryFn: () => take(api.GET("/api/practice/crew")) });

export const yardKey = (job_id: number) => ["job", job_id, "yard"] as const;

export const useYard = (job_id: number) =>
  useQuery({
    queryKey: yardKey(job_id),
    queryFn: () => take(api.GET("/api/jobs/{job_id}/yard", { params: { path: { job_id } } })),
  });

export const useDebrief = (job_id: number) =>
  useQuery({
    queryKey: ["job", job_id, "debrief"],
    queryFn: () => take(api.GET("/api/jobs/{job_id}/yard/debrief", { params: { path: { job_id } } })),
  });

export const useStop = (stop_id: number | null) =>
  useQuery({
    queryKey: ["stop", stop_id],
    enabled: stop_id !== null,
    queryFn: () => take(api.GET("/api/stops/{stop_id}", { params: { path: { stop_id: stop_id ?? 0 } } })),
  });

export const useSweep = (setup_id: number | null) =>
  useQuery({
    queryKey: ["setup", setup_id, "sweep"],
    enabled: setup_id !== null,
    queryFn: () =>
      take(api.GET("/api/setups/{setup_id}/sweep", { params: { path: { setup_id: setup_id ?? 0 } } })),
  });

export const useIdentity = (setup_id: number) =>
  useQuery({
    queryKey: ["setup", setup_id, "identity"],
    queryFn: () => take(api.GET("/api/setups/{setup_id}/identity", { params: { path: { setup_id } } })),
  });

export const useAcross = (setup_id: number, at_m: number) =>
  useQuery({
    queryKey: ["setup", setup_id, "across", at_m],
    queryFn: () =>
      take(api.GET("/api/setups/{setup_id}/across", { params: { path: { setup_id }, query: { at_m } } })),
  });

export const useMarks = (line_id: number) =>
  useQuery({
    queryKey: ["line", line_id, "marks"],
    queryFn: () => take(api.GET("/api/lines/{line_id}/marks", { params: { path: { line_id } } })),
  });

let changedAt = 0;

/** When this page last stored something itself. */
export const changedHereAt = () => changedAt;

/** This page stores something now: what comes back about it is no news. */
export const changingHere = () => {
  changedAt = Date.now();
};

/**
 * A change to what is stored; what depends on that kind of thing is read again afterwards, and nothing else.
 * What the change removes may be gone from the page by then: follow up on `mutateAsync`, whose promise outlives it.
 * Changes of one `scope` are sent in turn, so that quick ones never overtake each other. Where the answer is itself what
 * is `shown` under a key, the form is free at once and only the rest is read again, behind it: readings are typed quickly.
 */
export function useChange<In, Out>(
  kind: Kind,
  run: (input: In) => Promise<Out>,
  { scope, shown }: { scope?: string; shown?: readonly unknown[] } = {},
) {
  const client = useQueryClient();
  return useMutation<Out, Refusal | Error, In>({
    mutationFn: run,
    scope: scope ? { id: scope } : undefined,
    onMutate: changingHere,
    // a first answer still on its way was asked before the change: invalidating alone would let it stand as fresh
    onSuccess: async (answer) => {
      changingHere();
      await client.cancelQueries({ predicate: (q) => dependsOn(q.queryKey, kind) });
      if (!shown) return client.invalidateQueries({ predicate: (q) => dependsOn(q.queryKey, kind) });
      client.setQueryData(shown, answer);
      void client.invalidateQueries({
        predicate: (q) => q.queryHash !== hashKey(shown) && dependsOn(q.queryKey, kind),
      });
    },
    onError: (e) => {
      if (asRefusal(e).code === "stored_already")
        void client.invalidateQueries({ predicate: (q) => dependsOn(q.queryKey, kind) });
    },
  });
}
