/** Any table as a spreadsheet file (Office Open XML, an open format). The writer is fetched when it is first asked for. */
export async function downloadSheet(name: string, header: string[], rows: (string | number)[][]): Promise<void> {
  const { default: write } = await import('write-excel-file/browser');
  const data = [
    header.map((value) => ({ value, fontWeight: 'bold' as const })),
    // A text that looks like a formula stays a text: its cell says so.
    ...rows.map((line) => line.map((value) => (value === '' ? null : typeof value === 'number' ? { value, type: Number } : { value, type: String }))),
  ];
  await write(data, { sheet: 'Table' }).toFile(`${name.replace(/[^\w-]+/g, '_')}.xlsx`);
}
