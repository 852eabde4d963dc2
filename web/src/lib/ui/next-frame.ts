/** In a page that is not shown no frame comes. */
const LATE_MS = 200

/** Does a thing after the frame that is painted next, so that a tap is answered first. Answers what gives it up. */
export function nextFrame(act: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  const once = () => {
    giveUp()
    act()
  }
  const frame = requestAnimationFrame(() => (timer = setTimeout(once)))
  const late = setTimeout(once, LATE_MS)
  function giveUp() {
    cancelAnimationFrame(frame)
    clearTimeout(timer)
    clearTimeout(late)
  }
  return giveUp
}
