/** The path the application is served under, such as `/vessel` behind a reverse proxy; usually empty. */
export const BASE = new URL(
  document.querySelector("base")?.href ?? "/",
  window.location.href,
).pathname.replace(/\/$/, "");
