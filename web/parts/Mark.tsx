/** The mark of Rimefield: hoar frost on two rails. */
export function Mark({ size = 22 }: { size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 22 22"
      fill="none"
      strokeWidth="1.6"
      strokeLinecap="round"
      aria-hidden="true"
    >
      <path d="M2 17h18M2 13h18" stroke="var(--ink)" />
      <path
        d="M6 13V5M6 8l-3-2M6 8l3-2M15 13V3M15 7l-3.5-2.4M15 7l3.5-2.4M15 10.4l-3-2M15 10.4l3-2"
        stroke="var(--plum)"
      />
    </svg>
  );
}
