/** An arrow key on a cell's button goes to the button of the neighbouring cell. */
export function arrows(event: KeyboardEvent) {
  if (!event.key.startsWith('Arrow') || event.altKey) return
  event.preventDefault()
  const here = event.currentTarget as HTMLElement
  const column = here.closest('td')!.cellIndex
  const across = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  let row: Element | null = here.closest('tr')!
  if (across) row.children[column + across]?.querySelector('button')?.focus()
  else {
    // A row of words between two students has no cells.
    do row = event.key === 'ArrowUp' ? row.previousElementSibling : row.nextElementSibling
    while (row && !row.querySelector('button'))
    row?.children[column]?.querySelector('button')?.focus()
  }
}
