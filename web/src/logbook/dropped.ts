/** The files of a drop: those dropped by themselves and those one level down in a dropped folder. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  // Entries must be asked for before the first await: the drop is over by then.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry());
  const loose = [...transfer.files];
  const folders = entries.filter((entry) => entry?.isDirectory);
  if (folders.length === 0) return loose;
  const inside = await Promise.all(
    folders.map((entry) => filesIn(entry as FileSystemDirectoryEntry)),
  );
  const names = new Set(folders.map((entry) => entry?.name));
  return [...loose.filter((file) => !names.has(file.name)), ...inside.flat()];
}

async function filesIn(folder: FileSystemDirectoryEntry): Promise<File[]> {
  const reader = folder.createReader();
  const entries: FileSystemEntry[] = [];
  // A reader gives a folder in portions; an empty one is the last.
  for (;;) {
    const portion = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (portion.length === 0) break;
    entries.push(...portion);
  }
  const files = entries.filter((entry) => entry.isFile) as FileSystemFileEntry[];
  return Promise.all(files.map((file) => new Promise<File>((yes, no) => file.file(yes, no))));
}
