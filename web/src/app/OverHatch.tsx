/** The hatching of what is over a limit, for graphs: named by its id in `fill`. */
export const OverHatch = ({ id }: { id: string }) => (
  <defs>
    <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="6" height="6" fill="color-mix(in srgb, var(--chestnut-soft) 35%, var(--paper))" />
      <line x1="0" y1="0" x2="0" y2="6" stroke="var(--chestnut)" strokeWidth="2" />
    </pattern>
  </defs>
);
