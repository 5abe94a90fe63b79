/**
 * The files of the open roster standard as CSV with their columns, version 1.1 (IMS Global, now 1EdTech: "OneRoster v1.1 Final
 * Specification, CSV tables", 2017). Written down from memory of the published tables; only the files that say anything of Ridgeway's are
 * here, the others may lie beside them.
 */
export const ROSTER_VERSION = '1.1'
export const ROSTER_FILES = {
  'manifest.csv': ['propertyName', 'value'],
  'orgs.csv': ['sourcedId', 'status', 'dateLastModified', 'name', 'type', 'identifier', 'parentSourcedId'],
  'academicSessions.csv': ['sourcedId', 'status', 'dateLastModified', 'title', 'type', 'startDate', 'endDate', 'parentSourcedId',
    'schoolYear'],
  'courses.csv': ['sourcedId', 'status', 'dateLastModified', 'schoolYearSourcedId', 'title', 'courseCode', 'grades', 'orgSourcedId',
    'subjects', 'subjectCodes'],
  'classes.csv': ['sourcedId', 'status', 'dateLastModified', 'title', 'grades', 'courseSourcedId', 'classCode', 'classType', 'location',
    'schoolSourcedId', 'termSourcedIds', 'subjects', 'subjectCodes', 'periods'],
  'users.csv': ['sourcedId', 'status', 'dateLastModified', 'enabledUser', 'orgSourcedIds', 'role', 'username', 'userIds', 'givenName',
    'familyName', 'middleName', 'identifier', 'email', 'sms', 'phone', 'agentSourcedIds', 'grades', 'password'],
  'enrollments.csv': ['sourcedId', 'status', 'dateLastModified', 'classSourcedId', 'schoolSourcedId', 'userSourcedId', 'role', 'primary',
    'beginDate', 'endDate'],
} as const
export type RosterFile = keyof typeof ROSTER_FILES

/** Files of the standard that Ridgeway neither reads nor writes; the manifest says of each that it is absent. */
export const OTHER_FILES = ['categories', 'classResources', 'courseResources', 'demographics', 'lineItems', 'resources', 'results'] as const

/** What must be filled in for a row to be read at all. */
export const REQUIRED: { readonly [F in RosterFile]: readonly (typeof ROSTER_FILES)[F][number][] } = {
  'manifest.csv': ['propertyName'],
  'orgs.csv': ['sourcedId', 'name', 'type'],
  'academicSessions.csv': ['sourcedId', 'title', 'type', 'startDate', 'endDate'],
  'courses.csv': ['sourcedId', 'title'],
  'classes.csv': ['sourcedId', 'courseSourcedId', 'termSourcedIds'],
  'users.csv': ['sourcedId', 'role', 'givenName', 'familyName'],
  'enrollments.csv': ['sourcedId', 'classSourcedId', 'userSourcedId', 'role'],
}

/** The name of a file in whatever folder it lies. */
export const rosterFileOf = (path: string): string => /[^/]+$/.exec(path)?.[0] ?? path

/** Whether a folder is a roster: the standard's manifest lies in it. */
export const isRoster = (files: Readonly<Record<string, string>>): boolean =>
  Object.keys(files).some(path => rosterFileOf(path) === 'manifest.csv')
