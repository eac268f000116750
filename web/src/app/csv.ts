/** Any table as a CSV file. */
import Papa from 'papaparse';
import { harmless } from '@yellowhammer/core/model/cell-text';

export function downloadCsv(name: string, header: string[], rows: (string | number)[][]): void {
  // A byte order mark, so that spreadsheets read names in other scripts rightly.
  const text = `\ufeff${Papa.unparse([header, ...rows.map((line) => line.map((v) => (typeof v === 'string' ? harmless(v) : v)))])}\r\n`;
  const url = URL.createObjectURL(new Blob([text], { type: 'text/csv' }));
  const a = document.createElement('a');
  a.href = url;
  a.download = `${name.replace(/[^\w-]+/g, '_')}.csv`;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
