import { rig, show as core, type show } from '@deep-patch/core';
import { Plus, X } from 'lucide-react';
import { useState, type SyntheticEvent } from 'react';
import { useWorkspace } from '../live/workspace.tsx';
import { useDraft } from '../parts/drafts.ts';

type Account = show.Device['accounts'][number];

/** Accounts beyond the logins of services: of the system, of the maker, of an administrator. Passwords stay with people. */
export function DeviceAccounts({ device }: { device: show.Device }) {
  const { save } = useWorkspace();
  const write = (accounts: Account[]) =>
    save(core.changeOf(`Accounts of ${device.name}`, [core.updateRow('devices', device, { accounts })]));
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">
        Accounts{device.accounts.length > 0 && ` · ${device.accounts.length}`}
      </summary>
      <div className="grid gap-2 pt-2 text-[13px]">
        <ul>
          {device.accounts.map(({ use, account, keeper }, at) => (
            <li key={`${use} ${account}`} className="flex items-center gap-2 border-b border-rule py-1">
              <span className="min-w-0 flex-1">
                <code>{account}</code> <span className="text-mute">{rig.accountTexts[use]}</span>
                <span className="block text-mute">
                  {keeper ? `${keeper} knows the password` : 'who knows the password?'}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`Take out ${account}`}
                onClick={() => void write(device.accounts.filter((_, other) => other !== at))}
              >
                <X size={12} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
        {device.accounts.length < 8 && (
          <AddAccount where={device.id} onAdd={(account) => write([...device.accounts, account])} />
        )}
        <p className="text-mute">Write down who knows a password, not the password.</p>
      </div>
    </details>
  );
}

function AddAccount({ where, onAdd }: { where: string; onAdd: (account: Account) => Promise<boolean> }) {
  const [use, setUse] = useState<Account['use']>('administrator');
  const [account, setAccount] = useDraft(`${where} account`, '');
  const [keeper, setKeeper] = useDraft(`${where} keeper`, '');
  const add = (event: SyntheticEvent) => {
    event.preventDefault();
    void onAdd({ use, account: account.trim(), keeper: keeper.trim() }).then((isIn) => {
      if (!isIn) return;
      setAccount('');
      setKeeper('');
    });
  };
  return (
    <form onSubmit={add} className="grid gap-1.5">
      <select
        aria-label="Kind of account"
        className="field-select"
        value={use}
        onChange={(event) => setUse(event.target.value as Account['use'])}
      >
        {core.accountUses.map((key) => (
          <option key={key} value={key}>
            {rig.accountTexts[key]}
          </option>
        ))}
      </select>
      <div className="grid grid-cols-[1fr_1fr_auto] gap-1.5">
        <input
          aria-label="Account to add"
          placeholder="account"
          className="field"
          maxLength={core.limits.name}
          value={account}
          onChange={(event) => setAccount(event.target.value)}
        />
        <input
          aria-label="Who knows the password"
          placeholder="who knows it"
          className="field"
          maxLength={core.limits.text}
          value={keeper}
          onChange={(event) => setKeeper(event.target.value)}
        />
        <button type="submit" className="act" disabled={account.trim() === ''} aria-label="Add the account">
          <Plus size={14} aria-hidden />
        </button>
      </div>
    </form>
  );
}
