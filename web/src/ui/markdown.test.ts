// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import { markdown } from './markdown'

describe('markdown', () => {
  it('keeps what is written', () => {
    expect(markdown('**bold** and `code`\n\n- one\n- two')).toContain('<strong>bold</strong>')
    expect(markdown('- one\n- two')).toContain('<li>one</li>')
    expect(markdown('[chart](https://docs.example.org)')).toContain(
      '<a href="https://docs.example.org" target="_blank" rel="noopener noreferrer">chart</a>',
    )
  })

  it.each([
    '<script>alert(1)</script>',
    '<img src=x onerror=alert(1)>',
    '![picture](https://elsewhere.example/x.png)',
    '[link](javascript:alert(1))',
    '<a href="java&#115;cript:alert(1)">x</a>',
    '<svg><a xlink:href="javascript:alert(1)">x</a></svg>',
    '<form action="https://elsewhere.example"><input name="password"></form>',
    '<div style="position:fixed">x</div>',
    '<iframe src="https://elsewhere.example"></iframe>',
    '<a href="data:text/html,<script>alert(1)</script>">x</a>',
    '<math><mtext><table><mglyph><style><img src=x onerror=alert(1)>',
  ])('lets nothing run or load: %s', (text) => {
    const box = document.createElement('div')
    box.innerHTML = markdown(text)
    expect(box.querySelector('script, img, svg, form, input, iframe, style, math')).toBeNull()
    for (const element of box.querySelectorAll('*')) {
      for (const name of element.getAttributeNames()) expect(name).not.toMatch(/^on|^style$/)
      expect(element.getAttribute('href') ?? 'https:').toMatch(/^(https?|mailto):/)
    }
  })

  it('lets mentions of people stand out, but not in code', () => {
    const html = markdown('So **@Ann Lee**, `@Ann Lee` and @ann lee: @Bo', ['Ann Lee', 'Bo'])
    expect(html).toContain('<strong><b class="mention">@Ann Lee</b></strong>')
    expect(html).toContain('<code>@Ann Lee</code>')
    expect(html).toContain('and <b class="mention">@ann lee</b>: <b class="mention">@Bo</b>')
  })
})
