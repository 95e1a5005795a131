/** What every answer is shown with. */
export function Cautions() {
  return (
    <p className="narrow mt-4 border-l-4 border-advice py-1 pl-3 text-soft">
      Nelvor computes; it does not license. Local code and the authority having jurisdiction govern; permits and
      inspection apply. Work on or near energised parts is for qualified persons.
    </p>
  );
}
