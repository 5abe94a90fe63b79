import { remembered } from '../catalog/remembered'
import type { Course, CourseCode, Section } from '../catalog/types'
import { type Bundle, bundlesOf } from './bundles'

/** The sections of a term course by course, and the bundles that they make: each course's are made when something asks for them. */
export class Offer {
  private readonly byCourse = new Map<CourseCode, Section[]>()
  private readonly made = new Map<CourseCode, { parts: Course['parts'], bundles: readonly Bundle[] }>()

  constructor(sections: Iterable<Section>) {
    for (const section of sections) {
      const list = this.byCourse.get(section.course)
      if (list) list.push(section)
      else this.byCourse.set(section.course, [section])
    }
  }

  courses = (): CourseCode[] => [...this.byCourse.keys()]

  bundles({ code, parts }: Pick<Course, 'code' | 'parts'>): readonly Bundle[] {
    const before = this.made.get(code)
    if (before?.parts === parts) return before.bundles
    const bundles = bundlesOf({ code, parts }, this.byCourse.get(code) ?? [])
    this.made.set(code, { parts, bundles })
    return bundles
  }
}

/** What a map of sections offers. */
export const offerOf = remembered((sections: ReadonlyMap<number, Section>) => new Offer(sections.values()))
