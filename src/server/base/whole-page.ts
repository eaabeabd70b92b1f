/** Whether an answer is a page, and not data or a file. */
export const isPage = ({ headers }: Response): boolean =>
  headers.get("content-type")?.startsWith("text/html") ?? false;

/**
 * A page with all that is in it made, before anything of it is sent: what fails in the middle of making it is answered like
 * any other fault, and nobody waits for the rest of half a page. What is no page stays as it is.
 * @throws whatever was thrown while it was made
 */
export async function wholePage(response: Response): Promise<Response> {
  if (!isPage(response) || response.body === null) return response;
  const { status, statusText, headers } = response;
  return new Response(await response.arrayBuffer(), { status, statusText, headers });
}
