/** Where files wait that another app shared with the installed page, until the page is open. */
const SHELF = 'limpet-shared-files';
/** Files of one sharing, and their bytes together. */
const MOST_FILES = 50;
const MOST_BYTES = 512 * 2 ** 20;

/** In the service worker: keep what was shared, and open the place that looks at it. */
export async function keepShared(request: Request): Promise<Response> {
  const form = await request.formData();
  const files = form
    .getAll('files')
    .filter((each): each is File => each instanceof File)
    .slice(0, MOST_FILES);
  const total = files.reduce((sum, file) => sum + file.size, 0);
  await caches.delete(SHELF);
  if (total <= MOST_BYTES) {
    const shelf = await caches.open(SHELF);
    await Promise.all(
      files.map((file, at) =>
        shelf.put(
          `/shared/${at}`,
          new Response(file, { headers: { 'X-File-Name': encodeURIComponent(file.name) } }),
        ),
      ),
    );
  }
  return Response.redirect('/import?shared=1', 303);
}

/** In the page: take what was shared; it is not kept any longer. */
export async function takeShared(): Promise<File[]> {
  if (!('caches' in globalThis)) return [];
  const shelf = await caches.open(SHELF);
  const files: File[] = [];
  for (const request of await shelf.keys()) {
    const kept = await shelf.match(request);
    if (kept === undefined) continue;
    const name = decodeURIComponent(kept.headers.get('X-File-Name') ?? 'file');
    files.push(new File([await kept.blob()], name));
  }
  await caches.delete(SHELF);
  return files;
}
