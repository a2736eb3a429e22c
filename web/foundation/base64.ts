/** What a file holds, as base64. */
export function base64Of(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.addEventListener('load', () => resolve(String(reader.result).replace(/^[^,]*,/, '')));
    reader.addEventListener('error', () => reject(reader.error ?? new Error('The file can’t be read.')));
    reader.readAsDataURL(file);
  });
}
