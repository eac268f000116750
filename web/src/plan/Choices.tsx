import { memo, useMemo } from 'react';
import { useAfterFrame, useSession, useTopic, useWithDates } from '../project/hooks';
import { allColumns } from './columns';

/** What may be typed into cells that have a list of values; a moment after the rows, since nobody types that fast. */
export const Choices = memo(function Choices() {
  const { doc } = useSession();
  const version = useAfterFrame(useWithDates(useTopic('doc')));
  return useMemo(
    () =>
      allColumns(doc).flatMap((f) =>
        f.choices
          ? [
              <datalist key={f.key} id={`choices-${f.key}`}>
                {f.choices(doc).map((text) => (
                  <option key={text} value={f.open && text !== 'as late as possible' ? `${text} ` : text} />
                ))}
              </datalist>,
            ]
          : [],
      ),
    // The document is one object that changes inside.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc, version],
  );
});
