/** All files of a drop, those inside folders included. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  // Entries have to be taken before the first wait: the transfer is emptied after the event.
  const entries = [...transfer.items]
    .map((item) => item.webkitGetAsEntry())
    .filter((entry) => entry !== null);
  const found: File[] = [];
  const visit = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      found.push(
        await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))
      );
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    for (;;) {
      const part = await new Promise<FileSystemEntry[]>((resolve, reject) =>
        reader.readEntries(resolve, reject)
      );
      if (part.length === 0) return;
      for (const child of part) await visit(child);
    }
  };
  for (const entry of entries) await visit(entry);
  return found;
}
