import DOMPurify from 'dompurify'
import { marked } from 'marked'

/**
 * Markdown as HTML that can do nothing: no scripts, no styles, no forms, and no
 * pictures, which would be fetched from elsewhere. Links open beside the page.
 */
export function markdown(text: string): string {
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
  const box = document.createElement('div')
  box.append(clean)
  return box.innerHTML
}
