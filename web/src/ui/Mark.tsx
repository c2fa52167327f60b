/** Limpet's mark: a shell on its rock line. */
export function Mark() {
  return (
    <svg width="104" height="34" viewBox="0 0 104 34" role="img" aria-label="Limpet">
      <path d="M2 30 Q18 2 34 30 Z" fill="none" stroke="var(--ink)" strokeWidth="2" />
      <path
        d="M18 9 L9 29 M18 9 L15 29 M18 9 L21 29 M18 9 L27 29"
        stroke="var(--tide)"
        strokeWidth="1.6"
      />
      <text x="40" y="28" fill="var(--ink)" fontWeight="650" fontSize="17">
        limpet
      </text>
    </svg>
  );
}
