<?php

declare(strict_types=1);

use App\Http\Controllers\AirController;
use App\Http\Controllers\AssetController;
use App\Http\Controllers\BakeController;
use App\Http\Controllers\CatalogueController;
use App\Http\Controllers\ClothController;
use App\Http\Controllers\ClothFiguresController;
use App\Http\Controllers\CompareController;
use App\Http\Controllers\ContactPictureController;
use App\Http\Controllers\CopyPropController;
use App\Http\Controllers\DoorController;
use App\Http\Controllers\EditController;
use App\Http\Controllers\EvaluatedController;
use App\Http\Controllers\ForceFiguresController;
use App\Http\Controllers\ForecastController;
use App\Http\Controllers\GroundController;
use App\Http\Controllers\HandOffController;
use App\Http\Controllers\HelpController;
use App\Http\Controllers\HistoryController;
use App\Http\Controllers\KeepFrameController;
use App\Http\Controllers\LineUpController;
use App\Http\Controllers\MapController;
use App\Http\Controllers\MaterialController;
use App\Http\Controllers\MortarController;
use App\Http\Controllers\OutlineController;
use App\Http\Controllers\OverlapController;
use App\Http\Controllers\PasteController;
use App\Http\Controllers\PlateController;
use App\Http\Controllers\PresetController;
use App\Http\Controllers\PropPictureController;
use App\Http\Controllers\PunchController;
use App\Http\Controllers\ReleaseOrderController;
use App\Http\Controllers\RimsController;
use App\Http\Controllers\ShotController;
use App\Http\Controllers\ShotPackageController;
use App\Http\Controllers\ShotValueController;
use App\Http\Controllers\SpaceController;
use App\Http\Controllers\TrialController;
use Illuminate\Support\Facades\Route;

Route::post('sign-in', [DoorController::class, 'signIn']);

Route::get('catalogue', CatalogueController::class);
Route::get('ground', GroundController::class);
Route::get('space', [SpaceController::class, 'show']);
Route::delete('space', [SpaceController::class, 'clear']);

Route::get('shots', [ShotController::class, 'index']);
Route::post('shots', [ShotController::class, 'store']);
Route::post('shots/import', [ShotPackageController::class, 'import']);
Route::get('shots/deleted', [ShotController::class, 'deleted']);
Route::get('shots/{shot}', [ShotController::class, 'show']);
Route::put('shots/{shot}/place', [ShotController::class, 'place']);
Route::delete('shots/{shot}', [ShotController::class, 'destroy']);
Route::post('shots/{shot}/restore', [ShotController::class, 'restore'])->withTrashed();
Route::get('shots/{shot}/picture', [ShotController::class, 'picture']);
Route::put('shots/{shot}/picture', [ShotController::class, 'keepPicture']);
Route::get('shots/{shot}/export', [ShotPackageController::class, 'export']);
Route::get('shots/{shot}/check', [ShotController::class, 'check']);

Route::post('shots/{shot}/edits', [EditController::class, 'store']);
Route::post('shots/{shot}/undo', [EditController::class, 'undo']);
Route::post('shots/{shot}/redo', [EditController::class, 'redo']);
Route::post('shots/{shot}/paste', PasteController::class);
Route::get('shots/{shot}/history', [HistoryController::class, 'index']);
Route::post('shots/{shot}/history/{edit}', [HistoryController::class, 'go'])->where('edit', '[0-9]{1,15}');
Route::put('shots/{shot}/history/picture', [HistoryController::class, 'keepPicture']);
Route::get('shots/{shot}/history/{edit}/picture', [HistoryController::class, 'picture'])->where('edit', '[0-9]{1,15}');
Route::put('shots/{shot}/history/{edit}/name', [HistoryController::class, 'name'])->where('edit', '[0-9]{1,15}');

Route::post('outlines', OutlineController::class);
Route::post('pictures', [AssetController::class, 'storePicture']);
Route::get('pictures/{asset}', [AssetController::class, 'picture'])->where('asset', '[0-9a-f]{64}');
Route::post('plates/pictures', [PlateController::class, 'pictures']);
Route::post('plates/film', [PlateController::class, 'film']);
Route::post('assets', [AssetController::class, 'store']);
Route::get('assets/reading/{key}', [AssetController::class, 'reading'])->where('key', '[0-9a-f]{16}');
Route::delete('assets/reading/{key}', [AssetController::class, 'callOff'])->where('key', '[0-9a-f]{16}');
Route::get('assets/{asset}/names', [AssetController::class, 'names'])->where('asset', '[0-9a-f]{64}');
Route::get('shots/{shot}/props/{prop}/picture', [PropPictureController::class, 'ofShot']);
Route::get('shots/{shot}/props/{prop}/contact', ContactPictureController::class);
Route::get('shots/{shot}/props/{prop}/order', ReleaseOrderController::class);
Route::get('shots/{shot}/props/{prop}/forces', ForceFiguresController::class);
Route::get('shots/{shot}/props/{prop}/cloth', ClothFiguresController::class);
Route::get('shots/{shot}/props/{prop}/mortar', MortarController::class);
Route::post('shots/{shot}/props/{prop}/cast', KeepFrameController::class);
Route::post('shots/{shot}/props/{prop}/copies', CopyPropController::class);
Route::get('shots/{shot}/props/{prop}/rims', RimsController::class);
Route::get('shots/{shot}/props/{prop}/forecast', ForecastController::class);
Route::get('shots/{shot}/air', AirController::class);
Route::post('shots/{shot}/line-up', LineUpController::class);
Route::post('shots/{shot}/props/{prop}/punch', PunchController::class);

Route::get('shots/{shot}/evaluated', [EvaluatedController::class, 'ofShot']);
Route::get('bakes/{bake}/evaluated', [EvaluatedController::class, 'ofBake']);
Route::get('shots/{shot}/maps/{map}', [MapController::class, 'show']);
Route::post('shots/{shot}/maps/{map}/trial', [MapController::class, 'trial']);
Route::get('maps/frames/{key}', [MapController::class, 'frame'])->where('key', '[0-9a-f]{32}');

Route::get('help/{page}', [HelpController::class, 'page'])->where('page', '[a-z-]{1,40}');
Route::get('help/{folder}/{name}', [HelpController::class, 'picture'])->where(['folder' => '[a-z]{1,20}', 'name' => '[a-z0-9-]{1,60}']);

Route::post('materials', [MaterialController::class, 'store']);
Route::delete('materials/{name}', [MaterialController::class, 'destroy'])->where('name', '[a-z-]{1,40}');
Route::get('presets', [PresetController::class, 'index']);
Route::post('presets', [PresetController::class, 'store']);
Route::delete('presets/{preset}', [PresetController::class, 'destroy']);
Route::post('shots/{shot}/presets', [PresetController::class, 'lay']);

Route::get('shots/{shot}/values', ShotValueController::class);
Route::get('shots/{shot}/trials', [TrialController::class, 'index']);
Route::post('shots/{shot}/trials', [TrialController::class, 'store']);
Route::post('shots/{shot}/trials/plan', [TrialController::class, 'plan']);
Route::get('trials/{trial}', [TrialController::class, 'show']);
Route::delete('trials/{trial}', [TrialController::class, 'destroy']);
Route::post('trials/{trial}/look', [TrialController::class, 'look']);
Route::post('trials/{trial}/cancel', [TrialController::class, 'callOff']);
Route::post('trials/{trial}/resume', [TrialController::class, 'goOn']);
Route::get('variants/{variant}/document', [TrialController::class, 'document']);
Route::get('variants/{variant}/props/{prop}/picture', [PropPictureController::class, 'ofVariant']);
Route::post('variants/{variant}/choose', [TrialController::class, 'choose']);
Route::get('shots/{shot}/bakes', [CompareController::class, 'index']);
Route::get('bakes/{bake}/against/{before}', [CompareController::class, 'against']);
Route::get('bakes/{bake}/props/{prop}/picture', [PropPictureController::class, 'ofBake']);

Route::get('shots/{shot}/bake', [BakeController::class, 'latest']);
Route::post('shots/{shot}/bakes', [BakeController::class, 'store']);
Route::get('bakes/{bake}/document', [BakeController::class, 'document']);
Route::get('shots/{shot}/moments', [ShotController::class, 'moments']);
Route::post('bakes/{bake}/cancel', [BakeController::class, 'cancel']);
Route::post('bakes/{bake}/resume', [BakeController::class, 'resume']);

Route::get('bakes/{bake}/hand-offs', [HandOffController::class, 'index']);
Route::post('bakes/{bake}/hand-offs', [HandOffController::class, 'store']);
Route::get('bakes/{bake}/cloth/{prop}/{frame}', ClothController::class)->where('frame', '-?[0-9]{1,7}');
Route::get('bakes/{bake}/overlap/{frame}', OverlapController::class)->where('frame', '-?[0-9]{1,7}');
Route::get('bakes/{bake}/{what}', [BakeController::class, 'read'])->whereIn('what', ['state', 'frames', 'figures']);

Route::get('hand-offs/{handOff}', [HandOffController::class, 'show']);
Route::get('hand-offs/{handOff}/file', [HandOffController::class, 'file']);
