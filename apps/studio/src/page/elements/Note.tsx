/** A sheet of an element without settings: what it shows by itself. */
export const note = (words: string) =>
  function Note() {
    return <p className="text-soft">{words}</p>;
  };

/** An element whose words are all there is to it. */
export const nothing = () => null;
