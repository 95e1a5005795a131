/** The members of the shop: who may do what, invitations and resets as links that the owner hands over. */
import { useCallback, useEffect, useState, type SyntheticEvent } from "react";
import { answered, api, messageOf, rememberCsrf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";

type List = Schemas["MemberList"];
type Line = Schemas["MemberLine"];
type Role = Schemas["RoleBody"]["role"];

const ROLES: [Role, string][] = [
  ["owner", "owner: everything, and the members"],
  ["designer", "designer: changes jobs and local rules"],
  ["field", "field: reads, and writes the log on site"],
  ["reviewer", "reviewer: reads, and leaves remarks"],
];
const BOX = "min-h-9 rounded-sm border border-rule bg-sheet px-2 pointer-coarse:min-h-11";

export function Members() {
  const [list, setList] = useState<List | null>(null);
  const [fault, setFault] = useState("");
  const [link, setLink] = useState<{ url: string; words: string } | null>(null);
  const told = useCallback((failure: unknown) => setFault(messageOf(failure)), []);
  const read = useCallback(() => {
    answered(api.GET("/api/shop/members")).then(setList, told);
  }, [told]);
  useEffect(read, [read]);
  const handOut = (words: string, made: Promise<Schemas["LinkOut"]>) => {
    setFault("");
    made.then(({ token }) => setLink({ url: `${window.location.origin}/link#${token}`, words }), told);
  };
  const change = (made: Promise<List>) => {
    setFault("");
    made.then(setList, told);
  };
  if (!list) return fault ? <p role="alert">{fault}</p> : <p>Reading the members…</p>;
  return (
    <>
      <ul className="mb-3 border-b border-rule" aria-label="Members">
        {list.members.map((line) => (
          <MemberRow
            key={line.id}
            line={line}
            mayManage={list.may_manage}
            onRole={(role) =>
              change(
                answered(
                  api.PUT("/api/shop/members/{member_id}", {
                    params: { path: { member_id: line.id } },
                    body: { role },
                  }),
                ),
              )
            }
            onReset={() =>
              handOut(
                `Hand this link to ${line.name}: it asks for a new password, once, within seven days.`,
                answered(api.POST("/api/shop/members/{member_id}/reset", { params: { path: { member_id: line.id } } })),
              )
            }
            onRemove={() =>
              change(
                answered(api.DELETE("/api/shop/members/{member_id}", { params: { path: { member_id: line.id } } })),
              )
            }
          />
        ))}
      </ul>
      {list.may_manage ? (
        <Invite
          onInvite={(email, role) =>
            handOut(
              `Hand this link to ${email}: by it one becomes a member, once, within seven days.`,
              answered(api.POST("/api/shop/members", { body: { email, role } })),
            )
          }
        />
      ) : null}
      {link ? (
        <p role="status" className="mt-3 border-l-4 border-copper bg-sheet p-3">
          {link.words}
          <input
            aria-label="Link"
            className={`${BOX} mt-1 w-full`}
            readOnly
            value={link.url}
            onFocus={(event) => event.target.select()}
          />
          <span className="narrow text-soft">It is shown this once.</span>
        </p>
      ) : null}
      {fault ? (
        <p role="alert" className="mt-3 text-fix">
          {fault}
        </p>
      ) : null}
    </>
  );
}

function MemberRow({
  line,
  mayManage,
  onRole,
  onReset,
  onRemove,
}: {
  line: Line;
  mayManage: boolean;
  onRole: (role: Role) => void;
  onReset: () => void;
  onRemove: () => void;
}) {
  const [asked, ask] = useState(false);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-1.5" data-member={line.email}>
      <span className="min-w-40 flex-1">
        <span dir="auto" className="font-semibold">
          {line.name}
        </span>{" "}
        <span className="narrow text-soft">{line.email}</span>
        {line.self ? <span className="narrow text-soft"> · you</span> : null}
      </span>
      {mayManage ? (
        <select
          aria-label={`Role of ${line.name}`}
          className={BOX}
          value={line.role}
          onChange={(event) => onRole(event.target.value as Role)}
        >
          {ROLES.map(([role]) => (
            <option key={role}>{role}</option>
          ))}
        </select>
      ) : (
        <span>{line.role}</span>
      )}
      {mayManage && !line.self ? (
        asked ? (
          <span className="flex items-center gap-2">
            <Button onClick={onRemove}>Take {line.name} out</Button>
            <Button kind="quiet" onClick={() => ask(false)}>
              Keep
            </Button>
          </span>
        ) : (
          <span className="flex items-center gap-2">
            <Button kind="quiet" onClick={onReset}>
              New password
            </Button>
            <Button kind="quiet" onClick={() => ask(true)}>
              Remove
            </Button>
          </span>
        )
      ) : null}
    </li>
  );
}

function Invite({ onInvite }: { onInvite: (email: string, role: Role) => void }) {
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("designer");
  const invite = (event: SyntheticEvent) => {
    event.preventDefault();
    onInvite(email.trim(), role);
    setEmail("");
  };
  return (
    <form onSubmit={invite} className="flex flex-wrap items-center gap-2">
      <input
        aria-label="Email to invite"
        type="email"
        required
        placeholder="email"
        className={`${BOX} min-w-52 flex-1`}
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <select aria-label="Role" className={BOX} value={role} onChange={(event) => setRole(event.target.value as Role)}>
        {ROLES.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      <Button type="submit">Invite</Button>
    </form>
  );
}

/** One's own password; every other sign-in ends with it. */
export function OwnPassword() {
  const [current, setCurrent] = useState("");
  const [next, setNext] = useState("");
  const [told, tell] = useState<{ fault: boolean; words: string } | null>(null);
  const change = (event: SyntheticEvent) => {
    event.preventDefault();
    answered(api.PUT("/api/session/password", { body: { current, new: next } })).then(
      (session) => {
        rememberCsrf(session.csrf);
        setCurrent("");
        setNext("");
        tell({ fault: false, words: "Your password is changed; everywhere else you are signed out." });
      },
      (failure: unknown) => tell({ fault: true, words: messageOf(failure) }),
    );
  };
  return (
    <form onSubmit={change} className="flex flex-wrap items-center gap-2">
      <input
        aria-label="Current password"
        type="password"
        autoComplete="current-password"
        placeholder="current password"
        required
        className={BOX}
        value={current}
        onChange={(event) => setCurrent(event.target.value)}
      />
      <input
        aria-label="New password"
        type="password"
        autoComplete="new-password"
        placeholder="new, 12 characters or more"
        required
        minLength={12}
        className={`${BOX} min-w-56`}
        value={next}
        onChange={(event) => setNext(event.target.value)}
      />
      <Button type="submit">Change it</Button>
      {told ? (
        <span role={told.fault ? "alert" : "status"} className={told.fault ? "text-fix" : "text-soft"}>
          {told.words}
        </span>
      ) : null}
    </form>
  );
}
