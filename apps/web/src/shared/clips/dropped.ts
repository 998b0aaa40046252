// Files of a drop, folders gone through. What a browser does not show as an entry is taken as a file.

export async function filesIn(data: DataTransfer): Promise<File[]> {
  const entries = [...data.items].map((i) => i.webkitGetAsEntry());
  const plain = [...data.files];
  if (!entries.some((e) => e?.isDirectory === true)) return plain;
  const nested = await Promise.all(entries.map((e) => (e === null ? Promise.resolve([]) : filesOf(e))));
  return nested.flat();
}

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) return [await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const files: File[] = [];
  // A reader gives a hundred entries at a time, and none when it is through.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail));
    if (some.length === 0) return files;
    for (const e of some) files.push(...(await filesOf(e)));
  }
}
