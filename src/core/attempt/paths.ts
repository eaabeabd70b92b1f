/**
 * Where a file that a student brought to an attempt is.
 * @example filePath("a1", "f1") → "/api/attempts/a1/files/f1"
 */
export const filePath = (attemptId: string, fileId: string) => `/api/attempts/${attemptId}/files/${fileId}`;

/**
 * Where a sound or a film of an attempt's quiz is.
 * @example recordingPath("a1", "r1") → "/api/attempts/a1/recordings/r1"
 */
export const recordingPath = (attemptId: string, recordingId: string) =>
  `/api/attempts/${attemptId}/recordings/${recordingId}`;

/**
 * Where a picture of an attempt's quiz is.
 * @example picturePath("a1", "p1") → "/api/attempts/a1/pictures/p1"
 */
export const picturePath = (attemptId: string, pictureId: string) =>
  `/api/attempts/${attemptId}/pictures/${pictureId}`;
