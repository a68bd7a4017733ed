/** Every edit by its name: the one list of them. */
import {
  copyCues,
  joinCues,
  makeCues,
  moveCues,
  renumberCues,
  splitCue,
} from '../cues/edits/arrange.ts';
import { blockCue } from '../cues/edits/block.ts';
import { changeCue, changeCues, deleteCue, setTrigger } from '../cues/edits/change.ts';
import { changeFixtures } from '../fixtures/edits/change.ts';
import { changeShow, putAside } from '../settings/edits.ts';
import {
  deleteDepartment,
  removePrompt,
  setDepartment,
  setPrompt,
} from '../script/department-edits.ts';
import { likeCue } from '../notes/like-edits.ts';
import { addNote, deleteNote, finishNote, giveNote, replyNote } from '../notes/edits.ts';
import { deleteArea, setArea } from '../areas/edits.ts';
import { deleteInput, setInput } from '../inputs/edits.ts';
import { bind, deleteHand, setHand } from '../hands/edits.ts';
import { deletePieces, deleteSheet, orderSheets, putPieces, setSheet } from '../sheets/edits.ts';
import { deletePart, setPart } from '../crew/edits.ts';
import { copyProgramming } from '../cues/edits/copy-programming.ts';
import { changeList, deleteList, makeList } from '../lists/edits.ts';
import { deleteOccasion, setOccasion, skipOccasion } from '../occasions/edits.ts';
import { moveAction, putAction } from '../time/alongside-edits.ts';
import { layRecording, placeCues, setTempo } from '../time/edits.ts';
import { addSound, changeSound, deleteSound } from '../sounds/edits.ts';
import { makeListOf } from '../lists/list-of-edits.ts';
import { deleteFixtures } from '../fixtures/edits/delete.ts';
import { type Edit } from './define-edit.ts';
import { deleteFader, nameFaderPage, orderFaders, putOnFader, setFader } from '../faders/edits.ts';
import { addStandardEffects, deleteEffect, setEffect } from '../effects/edits.ts';
import { changeGroup, deleteGroup, recordGroup } from '../groups/edits.ts';
import { deleteCircuit, nameUniverse, setCircuit, setPower } from '../circuits/edits.ts';
import { importCues } from '../cues/edits/import.ts';
import { importPatch } from '../fixtures/edits/import.ts';
import { changeLook, deleteLook, flattenLook, ownLook, recordLook } from '../looks/edits.ts';
import { moveFixtures } from '../fixtures/edits/move.ts';
import { changePalette, deletePalette, recordPalette } from '../palettes/edits.ts';
import { patchFixtures } from '../fixtures/edits/patch.ts';
import {
  addPicture,
  deleteLayout,
  deletePicture,
  deletePiece,
  orderRows,
  setLayout,
  setPiece,
} from '../plan/edits.ts';
import { recordList } from '../cues/edits/record-list.ts';
import { ownPalette, recordCue, removeFromCue, updateSource } from '../cues/edits/record.ts';
import { deleteRoute, mapUniverses, setRoute } from '../routes/edits.ts';
import {
  changeCall,
  cuesFromFlags,
  deleteScript,
  importScript,
  removeCall,
  setCall,
} from '../script/edits.ts';
import { setValues } from '../cues/edits/set-values.ts';
import { swapType } from '../fixtures/edits/swap-type.ts';
import { deleteType, setType } from '../types/edits.ts';

// Each entry checks its own parameters before it plans, so the table may forget their types.
const table = [
  patchFixtures,
  changeFixtures,
  moveFixtures,
  swapType,
  copyProgramming,
  deleteFixtures,
  importPatch,
  setType,
  deleteType,
  nameUniverse,
  setCircuit,
  deleteCircuit,
  setPower,
  recordCue,
  recordList,
  removeFromCue,
  updateSource,
  ownPalette,
  setValues,
  makeCues,
  moveCues,
  copyCues,
  renumberCues,
  splitCue,
  joinCues,
  blockCue,
  changeCue,
  changeCues,
  setTrigger,
  deleteCue,
  recordGroup,
  changeGroup,
  deleteGroup,
  recordPalette,
  changePalette,
  deletePalette,
  recordLook,
  changeLook,
  flattenLook,
  ownLook,
  deleteLook,
  setEffect,
  deleteEffect,
  addStandardEffects,
  setPiece,
  deletePiece,
  setLayout,
  deleteLayout,
  addPicture,
  deletePicture,
  orderRows,
  importCues,
  importScript,
  deleteScript,
  setCall,
  changeCall,
  removeCall,
  cuesFromFlags,
  setFader,
  putOnFader,
  nameFaderPage,
  orderFaders,
  deleteFader,
  addSound,
  deleteSound,
  setRoute,
  mapUniverses,
  deleteRoute,
  changeShow,
  putAside,
  setPart,
  deletePart,
  addNote,
  finishNote,
  replyNote,
  giveNote,
  deleteNote,
  likeCue,
  setDepartment,
  deleteDepartment,
  setPrompt,
  removePrompt,
  setArea,
  deleteArea,
  setInput,
  deleteInput,
  setSheet,
  deleteSheet,
  orderSheets,
  putPieces,
  deletePieces,
  setHand,
  bind,
  deleteHand,
  makeList,
  makeListOf,
  placeCues,
  setTempo,
  putAction,
  moveAction,
  layRecording,
  changeSound,
  setOccasion,
  skipOccasion,
  deleteOccasion,
  changeList,
  deleteList,
] as unknown as readonly Edit<unknown>[];
/** All edits by their names. */
export const EDITS: ReadonlyMap<string, Edit<unknown>> = new Map(table.map((e) => [e.name, e]));
