export declare function corpus(): { versions: Record<string, string>; missing: string[]; fonts: string[] };
