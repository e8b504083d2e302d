import type { Middleware } from "openapi-fetch";

/**
 * Gives every change a key by which the server knows it when it is sent again. The key follows what
 * is sent: it stays as long as nobody answered, whether the page tries again by itself or a person
 * presses again, and is another one as soon as it was answered or anything in it is different.
 */
export function onceEach(): Middleware {
  const unanswered = new Map<string, string>();
  const sent = new Map<string, string>();
  return {
    async onRequest({ id, request }) {
      if (request.method === "GET") return undefined;
      const what = `${request.method} ${request.url} ${await request.clone().text()}`;
      const key = unanswered.get(what) ?? newKey();
      unanswered.set(what, key);
      sent.set(id, what);
      request.headers.set("Idempotency-Key", key);
      return request;
    },
    onResponse({ id, response }) {
      const what = sent.get(id);
      sent.delete(id);
      if (what !== undefined && response.status < 500) unanswered.delete(what);
    },
    onError({ id }) {
      sent.delete(id);
    },
  };
}

function newKey(): string {
  const random = crypto.getRandomValues(new Uint32Array(4));
  return Array.from(random, (n) => n.toString(36)).join("-");
}
