/** The documentation of the checks is made of their table: `npx vitest run table.test -u` writes it anew. */
import { expect, test } from 'vitest';
import { CHECKS, checksOf, describeCheck, GROUP_NAMES, GROUPS, SEVERITY_NAMES, SHIPPED_SHEETS } from '.';

const MENDS = { unseen: 'one by one or all at once', seen: 'one by one', no: '' } as const;

function documentChecks(): string {
  const rows = (group: (typeof GROUPS)[number]): readonly string[] =>
    checksOf(group).map((check) => {
      const { id, title, severity, needs, numbers, mends } = describeCheck(check);
      const told = Object.entries(numbers).map(
        ([name, { label, unit, value }]) =>
          `\`${name}\`: ${label.toLowerCase()} ${typeof value === 'number' ? value : `\`${value.rule}\` of the track’s rules`} ${unit}`
      );
      const counts = severity === 'off' ? 'off' : SEVERITY_NAMES[severity].toLowerCase();
      return `| ${title} | \`${id}\` | ${counts} | ${told.join('; ')} | ${needs.join(', ')} | ${MENDS[mends]} |`;
    });
  const head = '| check | id | counts as | numbers | needs | mended |\n| --- | --- | --- | --- | --- | --- |';
  const groups = GROUPS.map((group) => `## ${GROUP_NAMES[group]}\n\n${head}\n${rows(group).join('\n')}`);
  const sheets = SHIPPED_SHEETS.filter(({ sheet }) => Object.keys(sheet).length > 0).map(({ name, sheet }) => {
    const own = Object.entries(sheet).map(([id, { severity, numbers = {} }]) => {
      const told = [severity, ...Object.entries(numbers).map(([key, value]) => `${key} ${value}`)];
      return `\`${id}\` ${told.filter((part) => part !== undefined).join(', ')}`;
    });
    return `**${name}**: ${own.join('; ')}.`;
  });
  return `# Checks

${CHECKS.length} checks, as the sheet “Web video” has them. A check that needs what is not known is told as not made. Made of
\`core/checks/table.ts\` by its test.

${groups.join('\n\n')}

## The other sheets that ship

Where they differ:

${sheets.join('\n\n')}
`;
}

test('the documentation says what the table does', async () => {
  await expect(documentChecks()).toMatchFileSnapshot('../../../../docs/checks.md');
});
