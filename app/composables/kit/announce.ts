import { announce as say } from '@atlaskit/pragmatic-drag-and-drop-live-region'

/** Tells who hears the page what happened on it, in one region that is always there. Empty words say nothing. */
export const announce = (words: string) => {
  if (words) say(words)
}
