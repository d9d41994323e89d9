/** Asks a running server for JSON; a body is sent as JSON, by POST unless another method is given. Rejects on a refusal. */
export async function call<T>(url: string, body?: object, method = body ? 'POST' : 'GET'): Promise<T> {
  const headers = { 'Content-Type': 'application/json' };
  const response = await fetch(url, { method, headers, ...(body && { body: JSON.stringify(body) }) });
  if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
  return (await response.json()) as T;
}
