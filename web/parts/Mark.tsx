export function Mark() {
  return (
    <svg viewBox="0 0 24 24" width="16" height="16" aria-hidden="true">
      <path
        d="M12 1c.8 7.3 3.7 10.2 11 11-7.3.8-10.2 3.7-11 11-.8-7.3-3.7-10.2-11-11C8.300 11.200 11.200 8.300 12 1z"
        fill="#58c2a3"
      />
    </svg>
  );
}
