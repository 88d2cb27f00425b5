import DOMPurify from 'dompurify'
import { marked } from 'marked'
import { mentionsIn } from './mentions'

/**
 * Markdown as HTML that can do nothing: no scripts, no styles, no forms, and no
 * pictures, which would be fetched from elsewhere. Links open beside the page. Mentions of people stand out.
 */
export function markdown(text: string, people: readonly string[] = []): string {
  const html = marked.parse(text, { async: false, gfm: true, breaks: true })
  const clean = DOMPurify.sanitize(html, {
    ALLOWED_TAGS: [
      'p',
      'br',
      'b',
      'strong',
      'i',
      'em',
      'del',
      's',
      'code',
      'pre',
      'blockquote',
      'ul',
      'ol',
      'li',
      'a',
      'h1',
      'h2',
      'h3',
      'h4',
      'h5',
      'h6',
      'hr',
      'table',
      'thead',
      'tbody',
      'tr',
      'th',
      'td',
    ],
    ALLOWED_ATTR: ['href', 'title', 'align', 'start'],
    ALLOWED_URI_REGEXP: /^(?:https?:|mailto:)/i,
    RETURN_DOM_FRAGMENT: true,
  })
  for (const link of clean.querySelectorAll('a')) {
    link.setAttribute('target', '_blank')
    link.setAttribute('rel', 'noopener noreferrer')
  }
  if (people.length) markMentions(clean, people)
  const box = document.createElement('div')
  box.append(clean)
  return box.innerHTML
}

/** Puts mentions of people into marks of their own, but for those in code. */
function markMentions(root: DocumentFragment, people: readonly string[]): void {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT)
  const texts: Text[] = []
  while (walker.nextNode()) texts.push(walker.currentNode as Text)
  for (const node of texts) {
    if (node.parentElement?.closest('code, pre')) continue
    for (const { at, end } of mentionsIn(node.data, people).reverse()) {
      node.splitText(end)
      const mark = document.createElement('b')
      mark.className = 'mention'
      mark.append(node.splitText(at))
      node.after(mark)
    }
  }
}
