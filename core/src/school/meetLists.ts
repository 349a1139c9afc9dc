import { courseKey, type ListedRole, type Place, type SchoolLists } from './lists.ts';

/** What is here already. */
export interface KnownSchool {
  readonly terms: readonly {
    readonly id: string;
    readonly source: string | null;
    readonly title: string;
    readonly startsOn: string;
    readonly endsOn: string;
  }[];
  readonly people: readonly {
    readonly id: string;
    readonly source: string | null;
    readonly email: string;
    readonly givenName: string;
    readonly familyName: string;
  }[];
  readonly courses: readonly {
    readonly id: string;
    readonly source: string | null;
    readonly code: string;
    readonly run: string;
    readonly title: string;
  }[];
  readonly sections: readonly { readonly id: string; readonly source: string | null; readonly courseId: string; readonly title: string }[];
  readonly enrolments: readonly {
    readonly id: string;
    readonly personId: string;
    readonly courseId: string;
    readonly sectionId: string | null;
    readonly role: ListedRole;
    readonly isWithdrawn: boolean;
  }[];
}
export type ListedWhat = 'add' | 'change' | 'same' | 'refuse';
/** What becomes of one row; `id` is that of what is here, for a change. */
export interface Meeting extends Place {
  readonly of: 'term' | 'person' | 'course' | 'section' | 'enrolment';
  readonly key: string;
  readonly id: string | null;
  readonly what: ListedWhat;
  readonly name: string;
  /** What changes, or why it is refused; empty where nothing is to be said. */
  readonly text: string;
}

const keyed = <T>(list: readonly T[], keyOf: (one: T) => string | null): Map<string, T> =>
  new Map(list.flatMap((one) => (keyOf(one) === null ? [] : [[(keyOf(one) ?? '').toLowerCase(), one]])));

class Meeter {
  readonly meetings: Meeting[] = [];
  readonly #lists: SchoolLists;
  readonly #known: KnownSchool;
  /** What stands behind a key: an identifier that is here, or null for what is added. Keys not in it are refused. */
  readonly #terms = new Map<string, string | null>();
  readonly #people = new Map<string, string | null>();
  readonly #courses = new Map<string, string | null>();
  readonly #sections = new Map<string, string | null>();

  constructor(lists: SchoolLists, known: KnownSchool) {
    this.#lists = lists;
    this.#known = known;
  }

  #say(of: Meeting['of'], place: Place, rest: Pick<Meeting, 'key' | 'id' | 'what' | 'name' | 'text'>): void {
    this.meetings.push({ of, file: place.file, line: place.line, ...rest });
  }

  meetTerms(): void {
    const bySource = keyed(this.#known.terms, (t) => t.source);
    const byTitle = keyed(this.#known.terms, (t) => t.title);
    for (const here of this.#known.terms) this.#terms.set(here.title.toLowerCase(), here.id);
    for (const term of this.#lists.terms) {
      const here = bySource.get(term.key.toLowerCase()) ?? byTitle.get(term.title.toLowerCase());
      this.#terms.set(term.key.toLowerCase(), here?.id ?? null);
      const changes =
        here === undefined
          ? []
          : [
              here.startsOn === term.startsOn ? '' : `begins ${here.startsOn} → ${term.startsOn}`,
              here.endsOn === term.endsOn ? '' : `ends ${here.endsOn} → ${term.endsOn}`,
            ].filter(Boolean);
      // A term that courses stand in is changed by hand, where what it touches is seen.
      const text =
        here === undefined
          ? ''
          : changes.length === 0
            ? ''
            : `differs (${changes.join(', ')}). Change the term above: every course in it is touched.`;
      this.#say('term', term, { key: term.key, id: here?.id ?? null, what: here === undefined ? 'add' : 'same', name: term.title, text });
    }
  }

  meetPeople(): void {
    const bySource = keyed(this.#known.people, (p) => p.source);
    const byEmail = keyed(this.#known.people, (p) => p.email);
    for (const here of this.#known.people) this.#people.set(here.email.toLowerCase(), here.id);
    const emails = new Set<string>();
    for (const person of this.#lists.people) {
      const own = bySource.get(person.key.toLowerCase());
      const holder = byEmail.get(person.email.toLowerCase());
      const here = own ?? holder;
      const name = `${person.givenName} ${person.familyName}`;
      const fault =
        own !== undefined && holder !== undefined && own.id !== holder.id
          ? `The address ${person.email} belongs to ${holder.givenName} ${holder.familyName} already.`
          : emails.has(person.email.toLowerCase())
            ? `The address ${person.email} stands in another row as well.`
            : null;
      emails.add(person.email.toLowerCase());
      if (fault !== null) {
        this.#say('person', person, { key: person.key, id: null, what: 'refuse', name, text: fault });
        continue;
      }
      this.#people.set(person.key.toLowerCase(), here?.id ?? null);
      this.#people.set(person.email.toLowerCase(), here?.id ?? null);
      const was = here === undefined ? '' : `${here.givenName} ${here.familyName}`;
      const changes =
        here === undefined
          ? []
          : [
              was === name ? '' : `name ${was} → ${name}`,
              here.email.toLowerCase() === person.email.toLowerCase() ? '' : `address ${here.email} → ${person.email}`,
            ].filter(Boolean);
      const what = here === undefined ? 'add' : changes.length > 0 ? 'change' : 'same';
      this.#say('person', person, {
        key: person.key,
        id: here?.id ?? null,
        what,
        name,
        text: here === undefined ? person.email : changes.join(', '),
      });
    }
  }

  meetCourses(): void {
    const bySource = keyed(this.#known.courses, (c) => c.source);
    const byCode = keyed(this.#known.courses, (c) => courseKey(c.code, c.run));
    for (const here of this.#known.courses) this.#courses.set(courseKey(here.code, here.run), here.id);
    const taught = new Set(
      this.#lists.enrolments
        .filter((e) => e.role === 'instructor' && this.#people.has(e.personKey.toLowerCase()))
        .map((e) => e.courseKey.toLowerCase()),
    );
    for (const course of this.#lists.courses) {
      const here = bySource.get(course.key.toLowerCase()) ?? byCode.get(courseKey(course.code, course.run));
      const refuse = (text: string): void => {
        this.#say('course', course, { key: course.key, id: null, what: 'refuse', name: `${course.code} ${course.run}`, text });
      };
      if (!this.#terms.has(course.term.toLowerCase())) refuse(`The term “${course.term}” is not here. Add it first.`);
      else if (here === undefined && !taught.has(course.key.toLowerCase()))
        refuse('Nobody who is here or in the lists teaches it. Name an instructor; its sections have no course until then.');
      else {
        this.#courses.set(course.key.toLowerCase(), here?.id ?? null);
        const isOther = here !== undefined && here.title !== course.title;
        const text = isOther ? `is called “${here.title}” here, as its teacher has it; that stays.` : course.title;
        this.#say('course', course, {
          key: course.key,
          id: here?.id ?? null,
          what: here === undefined ? 'add' : 'same',
          name: `${course.code} ${course.run}`,
          text,
        });
      }
    }
  }

  meetSections(): void {
    const bySource = keyed(this.#known.sections, (s) => s.source);
    const byTitle = keyed(this.#known.sections, (s) => `${s.courseId}/${s.title}`);
    const listed = new Set(this.#lists.sections.map((s) => s.key.toLowerCase()));
    const codeOf = new Map(this.#known.courses.map((c) => [c.id, courseKey(c.code, c.run)]));
    for (const here of this.#known.sections) this.#sections.set(`${codeOf.get(here.courseId) ?? ''}/${here.title.toLowerCase()}`, here.id);
    for (const section of this.#lists.sections) {
      const courseId = this.#courses.get(section.courseKey.toLowerCase());
      if (courseId === undefined) {
        this.#say('section', section, {
          key: section.key,
          id: null,
          what: 'refuse',
          name: section.title,
          text: 'Its course is not taken, so this section has none.',
        });
        continue;
      }
      const here = bySource.get(section.key.toLowerCase()) ?? byTitle.get(`${courseId ?? ''}/${section.title}`.toLowerCase());
      this.#sections.set(section.key.toLowerCase(), here?.id ?? null);
      const holder = byTitle.get(`${courseId ?? ''}/${section.title}`.toLowerCase());
      // A title that a section outside the lists has is not taken from it.
      const isTaken =
        here !== undefined && holder !== undefined && holder.id !== here.id && !listed.has(holder.source?.toLowerCase() ?? '');
      const isOther = here !== undefined && here.title !== section.title;
      const text = isTaken
        ? `keeps the title “${here.title}”: another section here has the title “${section.title}”.`
        : isOther
          ? `title ${here.title} → ${section.title}`
          : '';
      const what = here === undefined ? 'add' : isOther && !isTaken ? 'change' : 'same';
      this.#say('section', section, { key: section.key, id: here?.id ?? null, what, name: section.title, text });
    }
  }

  meetEnrolments(): void {
    const known = new Map(this.#known.enrolments.map((e) => [`${e.personId}/${e.courseId}`, e]));
    for (const one of this.#lists.enrolments) {
      const personId = this.#people.get(one.personKey.toLowerCase());
      const courseId = this.#courses.get(one.courseKey.toLowerCase());
      const sectionId = one.sectionKey === null ? null : this.#sections.get(one.sectionKey.toLowerCase());
      const key = `${one.personKey}/${one.courseKey}`;
      const name = `${one.personKey}, ${one.role}`;
      const meet = (what: ListedWhat, text: string, id: string | null = null): void => {
        this.#say('enrolment', one, { key, id, what, name, text });
      };
      if (personId === undefined) meet('refuse', `Nobody with “${one.personKey}” is here or in the lists.`);
      else if (courseId === undefined) meet('refuse', `The course ${one.courseKey} is not here or not taken.`);
      else if (sectionId === undefined) meet('refuse', `The section ${one.sectionKey ?? ''} is not here or not taken.`);
      else {
        const here = personId === null || courseId === null ? undefined : known.get(`${personId}/${courseId}`);
        if (here === undefined) meet(one.isWithdrawn ? 'same' : 'add', one.isWithdrawn ? 'is not in the course' : '');
        else if (here.role !== one.role) meet('refuse', `is ${here.role} of this course already. Change that in its Roster.`);
        else if (one.isWithdrawn !== here.isWithdrawn)
          meet('change', one.isWithdrawn ? 'is withdrawn; work and marks stay' : 'is in the course again', here.id);
        else if (one.role === 'student' && sectionId !== here.sectionId) meet('change', 'moves to another section', here.id);
        else meet('same', '', here.id);
      }
    }
  }
}

/**
 * What becomes of each row of a school’s lists: added, changed, left as it is, or refused with the reason. People are met by
 * the school’s identifier, else by address; courses by identifier, else by code and run; sections by identifier, else by title
 * in their course. Nothing that is here and not in the lists is touched. In the order terms, people, courses, sections,
 * enrolments, so that each rests on what stands before it. Worked example: a person who is here with the same name: `same`.
 */
export function meetLists(lists: SchoolLists, known: KnownSchool): readonly Meeting[] {
  const meeter = new Meeter(lists, known);
  meeter.meetTerms();
  meeter.meetPeople();
  meeter.meetCourses();
  meeter.meetSections();
  meeter.meetEnrolments();
  return meeter.meetings;
}
