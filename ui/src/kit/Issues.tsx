/** Faults of something read: place, reason and remedy, each on its line. */
import type { Issue } from "../api/client";

export function Issues({ issues }: { issues: Issue[] }) {
  if (issues.length === 0) return null;
  return (
    <ul role="alert" className="mt-2 max-h-40 space-y-0.5 overflow-auto text-fix">
      {issues.map((issue) => (
        <li key={`${issue.path}${issue.reason}`}>
          {issue.path ? <strong>{issue.path}: </strong> : null}
          {issue.reason} {issue.remedy}
        </li>
      ))}
    </ul>
  );
}
