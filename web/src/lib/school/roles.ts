import type { Schema } from '$lib/api/client'

/** What somebody of the staff can be. */
export const ROLES: Schema['PersonRole'][] = ['lead', 'instructor', 'inspector']

const NAMES: Record<Schema['PersonRole'], string> = {
  lead: 'lead instructor',
  instructor: 'instructor',
  inspector: 'inspector of sittings',
  student: 'student',
}

/** A role in words. */
export const roleName = (role: Schema['PersonRole']) => NAMES[role]
