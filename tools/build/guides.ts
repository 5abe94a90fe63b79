import { REFUSALS } from '@ridgeway/core/registration'
import { GLOSSARY, GUIDES } from '@ridgeway/words'

/** The guides as Markdown, by file name: what the screens say of themselves, with their pictures, and the glossary. */
export function guideFiles(): Map<string, string> {
  const files = new Map(GUIDES.map(({ file, title, begin, pages }) => [`${file}.md`, [
    `# ${title}`, begin,
    ...pages.flatMap(page => [
      `## ${page.title}`, page.first,
      ...page.picture ? [`![${page.title}](../screenshots/${page.picture}.png)`] : [],
      page.next.map(one => `- ${one}`).join('\n'),
      ...page.marks.length > 0
        ? [`| mark | means |\n|---|---|\n${page.marks.map(([mark, means]) => `| ${mark} | ${means} |`).join('\n')}`]
        : [],
    ]),
    'The words are in the [glossary](glossary.md). Press `?` on any page for what it is and for its keys.',
  ].join('\n\n') + '\n'] as const))
  files.set('glossary.md', `# Words on the screens\n\n| word | means |\n|---|---|\n${
    GLOSSARY.map(([word, means]) => `| ${word} | ${means} |`).join('\n')}\n`)
  return files
}

const REFUSALS_FROM = '<!-- refusals: written by tools/guides.ts -->'
const REFUSALS_TO = '<!-- end of refusals -->'

/** The document of rules with its table of refusals as the code has them. */
export function withRefusals(rules: string): string {
  const rows = Object.entries(REFUSALS).map(([code, words]) => `| \`${code}\` | ${words} |`)
  const [before, rest] = rules.split(REFUSALS_FROM)
  const after = rest?.split(REFUSALS_TO)[1]
  if (before === undefined || after === undefined) throw new Error('the rules have no place for the refusals')
  return [before, REFUSALS_FROM, '\n| code | what is said |\n|---|---|\n', rows.join('\n'), '\n', REFUSALS_TO, after].join('')
}
