/** The files of a drop, those of dropped folders among them; what systems hide beside them is left out. */

const read = (folder: FileSystemDirectoryEntry) =>
  new Promise<FileSystemEntry[]>((settle) => {
    const reader = folder.createReader();
    const found: FileSystemEntry[] = [];
    // A reader gives some at a time, and nothing once it is through.
    const more = () =>
      reader.readEntries(
        (entries) => {
          if (entries.length === 0) settle(found);
          else {
            found.push(...entries);
            more();
          }
        },
        () => settle(found),
      );
    more();
  });

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.name.startsWith('.') || entry.name === '__MACOSX') return [];
  if (entry.isFile)
    return new Promise((settle) =>
      (entry as FileSystemFileEntry).file(
        (file) => settle([file]),
        () => settle([]),
      ),
    );
  const inside = await read(entry as FileSystemDirectoryEntry);
  const files = await Promise.all(inside.map(filesOf));
  return files.flat().sort((one, other) => one.name.localeCompare(other.name, undefined, { numeric: true }));
}

export async function filesIn(dropped: DataTransfer): Promise<File[]> {
  // Entries are there only while the drop is handled.
  const entries = [...dropped.items].map((item) => item.webkitGetAsEntry());
  const plain = [...dropped.files];
  if (!entries.some((entry) => entry?.isDirectory)) return plain;
  const files = await Promise.all(entries.map((entry) => (entry ? filesOf(entry) : [])));
  return files.flat();
}
