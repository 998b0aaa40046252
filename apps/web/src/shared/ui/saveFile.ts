/** Hands the user a file made here. */
export function saveText(name: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

export const saveJson = (name: string, value: unknown): void => saveText(name, "application/json", JSON.stringify(value, null, 1));
