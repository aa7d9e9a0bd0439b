import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, asRefusal, take } from "../../api/client";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { Fold } from "../../ui/Fold";
import { Refused } from "../../ui/Refused";

/** What is kept of the database beside it, and one more made now. */
export function Backups() {
  const kept = useQuery({ queryKey: ["backups"], queryFn: () => take(api.GET("/api/backups")) });
  const client = useQueryClient();
  const [refused, setRefused] = useState("");
  const make = useMutation({
    mutationFn: () => take(api.POST("/api/backups")),
    onSuccess: (now) => {
      setRefused("");
      client.setQueryData(["backups"], now);
    },
    onError: (e) => setRefused(asRefusal(e).text),
  });
  if (!kept.data) return null;
  const last = kept.data.backups[0];
  return (
    <Fold className="card mt-6" summary={`Backups: ${last ? `last one ${when(last.made_at)}` : "none yet"}`}>
      <p className="mb-2">{kept.data.text}</p>
      <Button disabled={make.isPending} onClick={() => make.mutate()}>
        Back up now
      </Button>
      {refused ? <Refused text={refused} /> : null}
      {kept.data.backups.length ? (
        <table className="mt-3 w-full text-left text-sm">
          <caption className="pb-1 text-left text-quiet">
            In {kept.data.folder}, beside the database. Put one back with: vessel restore FILE
          </caption>
          <thead>
            <tr>
              <th className="py-1 font-semibold">Made</th>
              <th className="py-1 font-semibold">Why</th>
              <th className="py-1 text-right font-semibold">Size</th>
            </tr>
          </thead>
          <tbody>
            {kept.data.backups.map((b) => (
              <tr key={b.name} className="border-t border-edge">
                <td className="py-1">{when(b.made_at)}</td>
                <td className="py-1">{b.why}</td>
                <td className="py-1 text-right">{b.size_text}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </Fold>
  );
}
