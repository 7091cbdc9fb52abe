/** An item as its source's page lists it. */
export interface ItemRow {
  readonly id: number;
  readonly title: string;
  readonly link: string;
  readonly summary: string;
  /** What is known of it besides, in a line. */
  readonly about: string;
  /** The file of its picture. */
  readonly picture: string | null;
}

export function ItemView({ item }: { item: ItemRow }) {
  return (
    <li className="flex gap-3 border-t py-3">
      {item.picture ? (
        <img
          src={`/pictures/${item.picture}`}
          alt=""
          loading="lazy"
          className="h-[68px] w-[104px] flex-none rounded-md object-cover"
        />
      ) : (
        <div className="h-[68px] w-[104px] flex-none rounded-md bg-bench" />
      )}
      <div className="min-w-0 flex-1">
        <h3 className="text-lead">
          {item.link ? (
            <a href={item.link} rel="noreferrer" target="_blank" className="hover:underline">
              {item.title}
            </a>
          ) : (
            item.title
          )}
        </h3>
        <p className="text-small text-ink-3">{item.about}</p>
        <p className="line-clamp-2 text-ink-2">{item.summary}</p>
      </div>
    </li>
  );
}
