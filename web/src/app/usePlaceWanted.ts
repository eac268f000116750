import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';

/** Hears which part of a room a command leads to (`Room.places`), once for each time. */
export function usePlaceWanted(take: (place: string) => void): void {
  const { state, pathname, search } = useLocation();
  const navigate = useNavigate();
  const place = (state as { place?: string } | null)?.place;
  useEffect(() => {
    if (place === undefined) return;
    take(place);
    // A reload stays where one is, without opening it again.
    void navigate(pathname + search, { replace: true, state: null });
    // What takes it is another function with each drawing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [place]);
}
