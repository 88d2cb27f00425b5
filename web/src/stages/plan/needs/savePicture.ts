import { pngOfText, saveFile } from '@/ui/saveFile'
import { inkOf, type Ink, type Picture } from './picture'

/** Saves what is drawn as SVG or PNG, in the colours of the theme that is on. */
export async function savePicture(
  name: string,
  form: 'svg' | 'png',
  draw: (ink: Ink) => Picture,
): Promise<void> {
  const picture = draw(inkOf(document.documentElement))
  const paper = getComputedStyle(document.documentElement).getPropertyValue('--paper').trim()
  saveFile(
    `${name}.${form}`,
    form === 'svg' ? new Blob([picture.svg], { type: 'image/svg+xml' }) : await pngOfText(picture, paper),
  )
}
