export function UpdatePage() { return null; }
