/**
 * Names what is sent, so that the server stores it once: what was sent without an answer and is sent again unchanged
 * goes by the same name.
 */
const unanswered = new Map<string, string>();
const named = new WeakMap<Request, string>();

/** Return the name under which `request` is sent. */
export async function nameOf(request: Request): Promise<string> {
  const what = `${request.url} ${await request.clone().text()}`;
  const name = unanswered.get(what) ?? mark();
  unanswered.set(what, name);
  named.set(request, what);
  return name;
}

/** The server answered: the same sent again is meant. */
export function answered(request: Request) {
  unanswered.delete(named.get(request) ?? "");
}

function mark(): string {
  return [...crypto.getRandomValues(new Uint32Array(4))].map((n) => n.toString(36)).join("");
}
