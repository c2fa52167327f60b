/** Whether this device has a sheet of its own to which a picture can be given. */
export function canShare(): boolean {
  const probe = new File([''], 'a.png', { type: 'image/png' });
  return 'canShare' in navigator && navigator.canShare({ files: [probe] });
}
