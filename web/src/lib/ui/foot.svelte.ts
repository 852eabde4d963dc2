/** How high the bar at the foot of the page stands, for what has to keep clear of it; 0 where none does. */
export const foot = $state({ px: 0 })
