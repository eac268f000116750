export function ComparePage() { return null; }
