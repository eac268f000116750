/** A choice of the accounts of the project, those that lie in others moved in. */
import { accountLabel, accountTree } from '@yellowhammer/core/commands/accounts';
import type { Document } from '@yellowhammer/core/model/document';

interface Props {
  doc: Document;
  value: string | null;
  label: string;
  /** What it says where there is none. */
  none?: string;
  onChange: (id: string | null) => void;
}

export function AccountChoice({ doc, value, label, none = 'no account', onChange }: Props) {
  return (
    <select aria-label={label} value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}>
      <option value="">{none}</option>
      {accountTree(doc).map(({ account, depth }) => (
        <option key={account.id} value={account.id}>
          {`${'\u00a0\u00a0'.repeat(depth)}${accountLabel(doc, account)}`}
        </option>
      ))}
    </select>
  );
}
