/** The moth, seen from above and very still. */
export function Mark() {
  return (
    <svg viewBox="0 0 24 24" className="h-6 w-6" fill="none" stroke="currentColor" strokeWidth={1.6} aria-hidden>
      <circle cx="7.8" cy="10" r="4.4" />
      <circle cx="16.2" cy="10" r="4.4" />
      <path d="M12 9.5 V19 M12 19 l-2 2 M12 19 l2 2" />
    </svg>
  );
}
