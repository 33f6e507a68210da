/** The piece that was open last: what is kept from elsewhere is meant for it. */
const KEY = "eskel-last-piece";

export const rememberPiece = (id: number): void => sessionStorage.setItem(KEY, String(id));

export const lastPiece = (): string => sessionStorage.getItem(KEY) ?? "";
