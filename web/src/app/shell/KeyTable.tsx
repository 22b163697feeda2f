import { KEYS } from './keyList.ts';

/** Keyboard shortcuts, each with where it works. */
export function KeyTable() {
  return (
    <table className="table-sm table">
      <thead>
        <tr>
          <th className="pl-0">Key</th>
          <th>Where</th>
          <th>What it does</th>
        </tr>
      </thead>
      <tbody>
        {KEYS.map(({ key, where, what }) => (
          <tr key={`${where} ${key}`}>
            <td className="pl-0 whitespace-nowrap">
              <kbd className="kbd kbd-sm">{key}</kbd>
            </td>
            <td>{where}</td>
            <td>{what}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
