/** What a view is for, what its marks mean, and what to do with it: shown where it stands, and printed in the guides. */
export interface HelpPage {
  title: string
  /** The last part of its address. */
  at: string
  /** What it is for, in a sentence or two. */
  first: string
  /** Marks that need a word, and what each means. */
  marks: readonly (readonly [mark: string, means: string])[]
  /** What people do here, most usual first. */
  next: readonly string[]
  /** Its picture among the screenshots, where it has one. */
  picture?: string
}
