export function LibraryPage() { return null; }
