import classes from './Shell.module.css'

export function Wordmark() {
  return (
    <span className={classes.wordmark}>
      <svg
        width="24"
        height="22"
        viewBox="0 0 24 22"
        fill="none"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinecap="round"
        aria-hidden
      >
        <path d="M3 18c8 0 7-12 18-14" />
        <path d="M11 13c3 4 6 5 10 5" opacity=".55" />
        <circle cx="3" cy="18" r="1.6" fill="currentColor" />
      </svg>
      cursus
    </span>
  )
}
