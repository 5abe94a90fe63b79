import { LIMITS } from '#shared/contract/limits'
import { Refusal } from '../college/refusal'

/** How many pages of one kind each person has open that listen; too many of one person are refused. */
export class OpenPages {
  private readonly byPerson = new Map<number, number>()

  /** One more page of a person; gives the call that ends it, which may be made more than once. */
  open(person: number): () => void {
    const open = this.byPerson.get(person) ?? 0
    if (open >= LIMITS.streams)
      throw new Refusal(429, 'too-many-pages', `${LIMITS.streams} of your pages are open here already.`,
        'Close one of them; then reload this one.')
    this.byPerson.set(person, open + 1)
    let isOpen = true
    return () => {
      if (!isOpen) return
      isOpen = false
      const left = this.byPerson.get(person)! - 1
      if (left > 0) this.byPerson.set(person, left)
      else this.byPerson.delete(person)
    }
  }
}
