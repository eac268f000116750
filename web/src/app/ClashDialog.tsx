import { Group, Modal, Table } from '@mantine/core';
import { rowDifferences } from '@yellowhammer/core/fields/stored';
import { useSession, useTopic } from '../project/hooks';

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
            rowDifferences(session.doc, r.table, r.theirs, r.mine).map((d) => (
              <Table.Tr key={`${r.id} ${d.field}`}>
                <Table.Td>{session.rowName({ table: r.table, id: r.id, before: r.theirs, after: r.mine })}</Table.Td>
                <Table.Td>{d.title}</Table.Td>
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
