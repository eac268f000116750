import { useLocation } from 'react-router';

/** True in a window that shows the timeline alone: without rail, header and sheet. */
export const useAlone = (): boolean => new URLSearchParams(useLocation().search).has('alone');
