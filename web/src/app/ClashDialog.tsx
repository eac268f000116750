import { Group, Modal, Table } from '@mantine/core';
import type { Row } from '@yellowhammer/core/model/tables';
import { useSession, useTopic } from '../project/hooks';

const show = (v: unknown): string => (v === null || v === undefined ? '(none)' : typeof v === 'object' ? JSON.stringify(v) : String(v));

/** Fields in which two versions of a row differ. */
function differences(theirs: Row | null, mine: Row | null): { field: string; theirs: string; mine: string }[] {
  if (!theirs || !mine) return [{ field: 'row', theirs: theirs ? 'kept' : 'deleted', mine: mine ? 'kept' : 'deleted' }];
  return Object.keys(mine)
    .filter((k) => JSON.stringify((theirs as Record<string, unknown>)[k]) !== JSON.stringify((mine as Record<string, unknown>)[k]))
    .map((k) => ({ field: k, theirs: show((theirs as Record<string, unknown>)[k]), mine: show((mine as Record<string, unknown>)[k]) }));
}

/** Two windows changed the same row: says which, what the other one wrote, and lets the person choose. */
export function ClashDialog() {
  const session = useSession();
  useTopic('clash');
  const clash = session.clashList[0];
  if (!clash) return null;
  return (
    <Modal opened onClose={() => session.settle(clash, 'theirs')} title={`${clash.who} changed the same ${clash.rows.length === 1 ? 'row' : 'rows'}`} size="lg">
      <p>
        “{clash.batch.label}” was made on an older version. What stands there now was written by {clash.who}.
      </p>
      <Table>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>Row</Table.Th>
            <Table.Th>Field</Table.Th>
            <Table.Th>{clash.who}</Table.Th>
            <Table.Th>You</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {clash.rows.flatMap((r) =>
            differences(r.theirs, r.mine).map((d) => (
              <Table.Tr key={`${r.id} ${d.field}`}>
                <Table.Td>{session.rowName({ table: r.table, id: r.id, before: r.theirs, after: r.mine })}</Table.Td>
                <Table.Td>{d.field}</Table.Td>
                <Table.Td>{d.theirs}</Table.Td>
                <Table.Td>{d.mine}</Table.Td>
              </Table.Tr>
            )),
          )}
        </Table.Tbody>
      </Table>
      <Group justify="flex-end" mt="md">
        <button type="button" className="light-button" onClick={() => session.settle(clash, 'theirs')} data-autofocus>
          Keep theirs
        </button>
        <button type="button" className="dark-button" onClick={() => session.settle(clash, 'mine')}>
          Write mine over it
        </button>
      </Group>
    </Modal>
  );
}
