/** What can stand in a column of a registrar’s own form, in our words. */
export const FORM_FIELDS = {
  student: 'Student ID',
  familyName: 'Family name',
  givenName: 'Given name',
  email: 'Email',
  section: 'Section ID',
  sectionTitle: 'Section',
  letter: 'Letter',
  number: 'Number',
  lastDay: 'Last day of attendance',
  expiresOn: 'Until',
  lapsesTo: 'Then',
} as const;
export type FormField = keyof typeof FORM_FIELDS;
