/** What an entry has changed, in sentences as they are read. */
export function Notices({ notices, className = "" }: { notices: string[]; className?: string }) {
  return notices.length > 0 ? (
    <ul className={`border-l-4 border-secondary pl-3 ${className}`} role="status" data-testid="notices">
      {notices.map((notice) => (
        <li key={notice}>{notice}</li>
      ))}
    </ul>
  ) : null;
}
