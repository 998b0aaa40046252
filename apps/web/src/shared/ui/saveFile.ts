/** Hands the user a file made here. */
export function saveBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

export const saveText = (name: string, type: string, text: string): void => saveBlob(name, new Blob([text], { type }));

export const saveJson = (name: string, value: unknown): void => saveText(name, "application/json", JSON.stringify(value, null, 1));
