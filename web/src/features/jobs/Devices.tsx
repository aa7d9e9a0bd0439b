import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, asRefusal, take } from "../../api/client";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { Fold } from "../../ui/Fold";
import { useToast } from "../../ui/Toasts";

/** Who is signed in, where a password is asked for; signing this or another device out. */
export function Devices() {
  const known = useQuery({ queryKey: ["devices"], queryFn: () => take(api.GET("/api/devices")) });
  const client = useQueryClient();
  const toast = useToast();
  const end = useMutation({
    mutationFn: (id: number) =>
      take(api.DELETE("/api/devices/{device_id}", { params: { path: { device_id: id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["devices"] }),
    onError: (e) => toast(asRefusal(e).text),
  });
  if (!known.data?.guarded) return null;
  return (
    <Fold className="card mt-3" summary={`Devices signed in: ${known.data.devices.length}`}>
      <ul>
        {known.data.devices.map((d) => (
          <li key={d.id} className="flex flex-wrap items-center gap-x-3 border-t border-edge py-1">
            <span className="grow">
              <strong>{d.name}</strong>
              {d.here ? " (this one)" : ""}{" "}
              <span className="text-sm text-quiet">since {when(d.signed_in_at)}</span>
            </span>
            <Button
              look="quiet"
              disabled={end.isPending}
              onClick={() =>
                end.mutateAsync(d.id).then(
                  () => d.here && window.location.reload(),
                  () => undefined,
                )
              }
            >
              Sign out<span className="sr-only"> {d.name}</span>
            </Button>
          </li>
        ))}
      </ul>
    </Fold>
  );
}
