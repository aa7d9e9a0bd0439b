import { useQuery } from "@tanstack/react-query";
import { useDebounce } from "use-debounce";

/**
 * The answer to a question that is still being typed, a moment after it stops changing; null while there is none.
 * `question` tells questions apart, null: nothing to ask. A server that does not answer is no answer.
 */
export function useAsked<T>(question: string | null, ask: () => Promise<T>, afterMs = 200): T | null {
  const [settled] = useDebounce(question, afterMs);
  const asked = useQuery({
    queryKey: ["asked", settled],
    enabled: settled !== null && settled === question,
    queryFn: ask,
    gcTime: 0,
    staleTime: 0,
    retry: false,
  });
  return settled === question ? (asked.data ?? null) : null;
}
