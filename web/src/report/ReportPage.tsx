export function ReportPage() { return null; }
