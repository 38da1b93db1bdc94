export declare const engineName: string
